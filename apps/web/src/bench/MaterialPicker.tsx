import { deviationsFrom, routeFor, withPattern } from "@hardline/core/material/material";
import { type Route } from "@hardline/core/route/route";
import { Select } from "../shared/fields/controls";
import { useMaterials } from "../api/house";
import { tellFault } from "../shared/tell";
import { Trouble } from "../shared/Trouble";
import css from "./MaterialPicker.module.css";
import { type RouteKeeper } from "./RouteKeeper";

/** The material that a route is for. Choosing one sets polarity, resolution and limits; what differs from it is told. */
export function MaterialPicker({ route, keeper }: { route: Route; keeper: RouteKeeper }) {
  const asked = useMaterials();
  const { data: materials = [] } = asked;
  const material = materials.find((m) => m.key === route.material);
  const differs = material ? deviationsFrom(route, material) : [];
  const choose = (key: string | null) => {
    (document.activeElement as HTMLElement | null)?.blur(); // so that keys are the bench's again
    const now = keeper.get().value;
    const chosen = materials.find((m) => m.key === key);
    try {
      if (chosen) keeper.change(routeFor(now, chosen));
      else {
        const { material: _, ...rest } = now;
        keeper.change(rest);
      }
    } catch (error) {
      tellFault("The material was not set", error);
    }
  };
  return (
    <div className={css.material}>
      <Trouble title="The materials cannot be shown" of={[asked]} />
      <Select
        aria-label="Material of this route"
        placeholder={route.material ? `${route.material}, not among the shop's` : "Choose the material"}
        data={materials.map(({ key, name }) => ({ value: key, label: name }))}
        value={material?.key ?? null}
        allowDeselect
        searchable
        maxDropdownHeight={320}
        leftSection={
          material && (
            <i
              className={css.swatch}
              style={{
                background: `linear-gradient(120deg, ${material.bareColour} 50%, ${material.markColour} 50%)`,
              }}
            />
          )
        }
        onChange={choose}
      />
      {differs.length > 0 && (
        <details className={css.differs}>
          <summary>
            {differs.length} {differs.length === 1 ? "setting differs" : "settings differ"}
          </summary>
          <ul>
            {differs.map(({ what, now, usual }) => (
              <li key={what}>
                {what}: {now}, usual <b>{usual}</b>
              </li>
            ))}
          </ul>
          {differs.some((d) => d.what !== "pattern") && (
            <button type="button" onClick={() => choose(material!.key)}>
              Set as usual
            </button>
          )}
          {differs.some((d) => d.what === "pattern") && (
            <button
              type="button"
              onClick={() => keeper.change(withPattern(keeper.get().value, material!))}
              title={`${material!.pattern}, as ${material!.name} prefers it`}
            >
              Take its pattern
            </button>
          )}
        </details>
      )}
    </div>
  );
}
