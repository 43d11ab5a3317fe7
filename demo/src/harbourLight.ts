import { clamp, mix, Noise, ramp } from "./noise";
import { lighthouse, type Hit } from "./lighthouse";

/*
 * A photograph-like picture: a lighthouse on a headland over a choppy sea, under broken cloud, in low sun. Land is a
 * height map walked along each ray; the tower is a solid found by distance; sea and sky are computed where a ray
 * meets them. Everything is made up.
 */

type Vec = [number, number, number];
const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const unit = (v: Vec): Vec => {
  const n = Math.sqrt(dot(v, v));
  return [v[0] / n, v[1] / n, v[2] / n];
};

const SUN: Vec = unit([-0.72, 0.4, -0.42]);
const EYE: Vec = [0, 3.4, 0];
const [MAP_X, MAP_Z, MAP_SPAN] = [-90, 4, 180];
const FAR = 400;

export interface View {
  /** Sideways turn and widest half-angle of the lens, as tangents. */
  readonly pan: number;
  readonly lens: number;
  readonly tower: boolean;
}

export class HarbourLight {
  private readonly noise = new Noise(1042);
  private readonly height: Float32Array;
  private highest = 0;

  /** @param map  side of the map of heights; a small picture does with a coarse one */
  constructor(
    private readonly view: View = { pan: 0.02, lens: 0.42, tower: true },
    private readonly map = 1024,
  ) {
    this.height = new Float32Array(map * map);
    for (let j = 0, i = 0; j < map; j++) {
      for (let k = 0; k < map; k++, i++) {
        this.height[i] = this.landAt(MAP_X + (k / map) * MAP_SPAN, MAP_Z + (j / map) * MAP_SPAN);
        this.highest = Math.max(this.highest, this.height[i]);
      }
    }
  }

  /** Rows `from`..`to` of the picture as linear light, three numbers a pixel. */
  rows(width: number, height: number, from: number, to: number): Float32Array {
    const out = new Float32Array(width * (to - from) * 3);
    const aspect = height / width;
    for (let y = from, o = 0; y < to; y++) {
      for (let x = 0; x < width; x++, o += 3) {
        const u = (2 * (x + 0.5)) / width - 1;
        const v = (1 - (2 * (y + 0.5)) / height) * aspect;
        const ray = unit([u * this.view.lens + this.view.pan, v * this.view.lens + 0.065, 1]);
        const light = this.seen(EYE, ray, true);
        const shade = 1 - 0.28 * (u * u + v * v); // the lens darkens its corners
        out[o] = light[0] * shade;
        out[o + 1] = light[1] * shade;
        out[o + 2] = light[2] * shade;
      }
    }
    return out;
  }

  private seen(from: Vec, ray: Vec, first: boolean): Vec {
    const sea = ray[1] < 0 ? -from[1] / ray[1] : FAR;
    const tower = this.view.tower ? lighthouse.hit(from, ray, sea) : null;
    const land = this.walk(from, ray, Math.min(sea, tower ? tower.distance : FAR), first ? 0.42 : 0.9);
    let colour: Vec;
    let distance: number;
    if (land > 0) {
      distance = land;
      colour = this.landColour(along(from, ray, land));
    } else if (tower) {
      distance = tower.distance;
      colour = this.towerColour(along(from, ray, tower.distance), tower);
    } else if (sea < FAR && first) {
      distance = sea;
      colour = this.seaColour(along(from, ray, sea), ray, sea);
    } else return first ? this.sky(ray) : this.roughSky(ray);
    const haze = 1 - Math.exp(-distance / 620);
    const air = this.roughSky(unit([ray[0], 0.05, ray[2]]));
    return [mix(colour[0], air[0], haze), mix(colour[1], air[1], haze), mix(colour[2], air[2], haze)];
  }

  /** Height of the land over the sea. */
  private landAt(x: number, z: number): number {
    const n = this.noise;
    const rough = n.ridges(x * 0.045, z * 0.045, 7);
    const dx = (x - 17) / 42;
    const dz = (z - 92) / 26;
    const head = Math.exp(-(dx * dx + dz * dz) * 1.6);
    const shelf = ramp(0.12, 0.62, head + 0.25 * (rough - 0.5));
    const plateau = Math.exp(-(((x - 15) / 9) ** 2) - ((z - 84) / 8) ** 2);
    let h = -2.2 + 11.5 * shelf + 7 * head * (rough - 0.35) + 1.3 * (n.octaves(x * 0.4, z * 0.4, 4) - 0.5);
    h = mix(h, 9.2 + 0.5 * n.octaves(x * 0.3, z * 0.3, 3), 0.85 * ramp(0.25, 0.8, plateau));
    // skerries to the left, and boulders near the eye
    const skerry = Math.exp(-(((x + 26) / 13) ** 2) - ((z - 74) / 7) ** 2);
    h = Math.max(h, -2.4 + 4.6 * skerry + 2.6 * skerry * n.ridges(x * 0.13, z * 0.13, 5));
    const near = ramp(24, 15, z + 1.5 * x + 5 * n.octaves(x * 0.25, z * 0.25, 3));
    return Math.max(h, -2.5 + near * (1.9 + 2.3 * n.ridges(x * 0.23, z * 0.23, 6)));
  }

  private heightAt(x: number, z: number): number {
    const { map } = this;
    const u = ((x - MAP_X) / MAP_SPAN) * map;
    const v = ((z - MAP_Z) / MAP_SPAN) * map;
    if (u < 0 || v < 0 || u >= map - 1 || v >= map - 1) return -3;
    const k = Math.floor(u);
    const j = Math.floor(v);
    const [fu, fv] = [u - k, v - j];
    const i = j * map + k;
    const h = this.height;
    return (h[i] * (1 - fu) + h[i + 1] * fu) * (1 - fv) + (h[i + map] * (1 - fu) + h[i + map + 1] * fu) * fv;
  }

  /** Distance at which a ray meets the land, or -1. */
  private walk(from: Vec, ray: Vec, limit: number, stride: number): number {
    let t = 2.5;
    let last = t;
    for (let step = 0; step < 90 / stride && t < limit; step++) {
      const y = from[1] + ray[1] * t;
      if (ray[1] > 0 && y > this.highest) return -1;
      const over = y - this.heightAt(from[0] + ray[0] * t, from[2] + ray[2] * t);
      if (over < 0.002 * t) {
        let [a, b] = [last, t];
        for (let k = 0; k < 6; k++) {
          const middle = (a + b) / 2;
          const above =
            from[1] + ray[1] * middle > this.heightAt(from[0] + ray[0] * middle, from[2] + ray[2] * middle);
          if (above) a = middle;
          else b = middle;
        }
        return b;
      }
      last = t;
      t += Math.max(0.02 + 0.0012 * t, over * stride);
    }
    return -1;
  }

  private sunlight(p: Vec): number {
    let open = 1;
    for (let step = 0, t = 0.5; step < 26; step++) {
      const y = p[1] + SUN[1] * t;
      if (y > this.highest) break;
      const over = y - this.heightAt(p[0] + SUN[0] * t, p[2] + SUN[2] * t);
      if (over < 0) return 0;
      open = Math.min(open, (9 * over) / t + 0.1);
      t += Math.max(0.3, over * 0.7);
    }
    if (this.view.tower && lighthouse.shades(p, SUN)) return 0.05;
    return clamp(open);
  }

  private landColour(p: Vec): Vec {
    const n = this.noise;
    const e = 0.12;
    const slope = unit([
      this.heightAt(p[0] - e, p[2]) - this.heightAt(p[0] + e, p[2]),
      2 * e,
      this.heightAt(p[0], p[2] - e) - this.heightAt(p[0], p[2] + e),
    ]);
    const cracks = n.ridges(p[0] * 1.1 + p[1] * 0.7, p[2] * 1.1 - p[1] * 1.3, 4);
    const grain = n.octaves(p[0] * 5.3 + p[1] * 3, p[2] * 5.3 + p[1] * 4, 4);
    const bump: Vec = unit([
      slope[0] + (grain - 0.5) * 1.7,
      slope[1] + (cracks - 0.4) * 0.9,
      slope[2] + (grain - cracks) * 1.1,
    ]);
    const strata = 0.5 + 0.5 * Math.sin(p[1] * 4.2 + 5 * n.octaves(p[0] * 0.2, p[2] * 0.2, 3));
    let rock =
      (0.035 + 0.17 * cracks * cracks + 0.1 * grain * cracks + 0.035 * strata) *
      mix(0.7, 1.15, n.octaves(p[0] * 0.3, p[1] * 0.5 + p[2] * 0.3, 3));
    rock *= mix(0.28, 1, ramp(0.1, 1.4, p[1] + 0.8 * (grain - 0.5))); // wet and weedy near the water
    const grass = ramp(0.72, 0.9, slope[1] + 0.3 * (grain - 0.5)) * ramp(4, 6.5, p[1] + 1.6 * (cracks - 0.5));
    const blade = n.octaves(p[0] * 9, p[2] * 9, 3);
    const albedo: Vec = [
      mix(rock * 1.05, 0.1 + 0.14 * blade, grass),
      mix(rock, 0.13 + 0.15 * blade, grass),
      mix(rock * 0.92, 0.05 + 0.07 * blade, grass),
    ];
    const sun = Math.max(0, dot(bump, SUN)) * this.sunlight(p) * 2.5;
    const sky = 0.36 * (0.5 + 0.5 * bump[1]) * (0.4 + 0.6 * cracks);
    const foam = ramp(0.34, 0, p[1]) * ramp(0.35, 0.7, n.octaves(p[0] * 1.7, p[2] * 1.7, 4));
    return [
      mix(albedo[0] * (sun * 1.12 + sky), 0.8, foam),
      mix(albedo[1] * (sun + sky), 0.83, foam),
      mix(albedo[2] * (sun * 0.84 + sky * 1.2), 0.86, foam),
    ];
  }

  private towerColour(p: Vec, hit: Hit): Vec {
    const weather = this.noise.octaves(p[0] * 3, p[1] * 1.1 + p[2] * 3, 5);
    const streak = this.noise.octaves(p[0] * 7 + p[2] * 7, p[1] * 0.6, 3);
    const paint = hit.albedo * (0.74 + 0.3 * weather) * (0.84 + 0.2 * streak);
    const sun = Math.max(0, dot(hit.normal, SUN)) * 2.3 * (hit.glass ? 0.4 : 1);
    const sky = 0.36 + 0.16 * hit.normal[1];
    return [paint * (sun * 1.08 + sky), paint * (sun + sky), paint * (sun * 0.88 + sky * 1.14)];
  }

  private wave(x: number, z: number): number {
    const n = this.noise;
    return (
      0.55 * n.octaves(x * 0.16 + 3, z * 0.3, 2) +
      0.3 * n.ridges(x * 0.42, z * 0.66 + 7, 3) +
      0.16 * n.octaves(x * 1.7, z * 2.4, 3)
    );
  }

  private seaColour(p: Vec, ray: Vec, distance: number): Vec {
    const n = this.noise;
    const e = 0.05 + distance * 0.0016;
    const calm = 1.25 / (1 + distance * 0.012);
    const here = this.wave(p[0], p[2]);
    const normal = unit([
      ((here - this.wave(p[0] + e, p[2])) / e) * calm * 0.55,
      1,
      ((here - this.wave(p[0], p[2] + e)) / e) * calm * 0.55,
    ]);
    const facing = Math.max(0.02, -dot(normal, ray));
    const fresnel = 0.03 + 0.97 * (1 - facing) ** 5;
    const k = -2 * dot(ray, normal);
    const bounce = unit([
      ray[0] + k * normal[0],
      Math.abs(ray[1] + k * normal[1]) + 0.02,
      ray[2] + k * normal[2],
    ]);
    const mirrored = this.seen([p[0], 0.05, p[2]], bounce, false);
    const deep = 0.7 + 0.5 * here;
    const glint = Math.max(0, dot(bounce, SUN)) ** 120 * 5;
    const shore = ramp(
      -1.1,
      -0.05,
      this.heightAt(p[0], p[2]) + 0.5 * (n.octaves(p[0] * 0.9, p[2] * 0.9, 4) - 0.5),
    );
    const crest =
      ramp(0.69, 0.8, here + 0.05 * n.at(p[0] * 3, p[2] * 3)) *
      ramp(0.4, 0.65, n.octaves(p[0] * 2.2, p[2] * 2.2, 3)) *
      ramp(120, 30, distance);
    const foam = clamp(shore * ramp(0.3, 0.62, n.octaves(p[0] * 1.3, p[2] * 2.1, 5)) + 0.7 * crest) * 0.78;
    return [
      mix(mix(0.022 * deep, mirrored[0], fresnel) + glint, 0.78, foam),
      mix(mix(0.06 * deep, mirrored[1], fresnel) + glint * 0.92, 0.81, foam),
      mix(mix(0.075 * deep, mirrored[2], fresnel) + glint * 0.7, 0.84, foam),
    ];
  }

  private readonly dome = new Map<number, Vec>();

  /** The sky in coarse steps, for what only mirrors it or fades into it. */
  private roughSky(ray: Vec): Vec {
    const key = Math.round((ray[0] + 1) * 300) * 1024 + Math.round((ray[1] + 1) * 300);
    let known = this.dome.get(key);
    if (!known) this.dome.set(key, (known = this.sky(ray)));
    return known;
  }

  private sky(ray: Vec): Vec {
    const up = Math.max(0.015, ray[1]);
    const towards = Math.max(0, dot(ray, SUN));
    const blue: Vec = [mix(0.72, 0.2, up ** 0.45), mix(0.74, 0.34, up ** 0.5), mix(0.74, 0.58, up ** 0.6)];
    const [x, z] = [(ray[0] / (up + 0.11)) * 1.5, (ray[2] / (up + 0.11)) * 1.5];
    const density = (dx: number) => {
      const n = this.noise;
      const drift = n.octaves(x * 0.5 + 11 + dx, z * 0.5 + 3 + dx * 0.6, 3);
      return n.octaves(x + drift * 1.9 + dx, z + drift * 1.4 + 40 + dx * 0.6, 6) * 0.75 + drift * 0.4;
    };
    const here = density(0);
    const cloud = ramp(0.5, 0.74, here);
    const towardsSun = density(-0.22);
    const lit = clamp(0.62 + (here - towardsSun) * 2.6 - 0.34 * ramp(0.62, 0.95, here));
    const glow = towards ** 6 * 0.5;
    return [
      mix(blue[0], mix(0.3, 1.12, lit), cloud * 0.94) + glow * 0.5,
      mix(blue[1], mix(0.32, 1.06, lit), cloud * 0.94) + glow * 0.42,
      mix(blue[2], mix(0.37, 0.98, lit), cloud * 0.94) + glow * 0.26,
    ];
  }
}

const along = (from: Vec, ray: Vec, t: number): Vec => [
  from[0] + ray[0] * t,
  from[1] + ray[1] * t,
  from[2] + ray[2] * t,
];
