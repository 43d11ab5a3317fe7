import { Button } from "@mantine/core";
import css from "./Customers.module.css";

interface Props {
  readonly asked: {
    readonly hasNextPage: boolean;
    readonly isFetchingNextPage: boolean;
    readonly fetchNextPage: () => Promise<unknown>;
  };
}

/** The next stretch of a list, where there is one. */
export const ShowMore = ({ asked: { hasNextPage, isFetchingNextPage, fetchNextPage } }: Props) =>
  hasNextPage && (
    <div className={css.more}>
      <Button variant="default" loading={isFetchingNextPage} onClick={() => void fetchNextPage()}>
        Show more
      </Button>
    </div>
  );
