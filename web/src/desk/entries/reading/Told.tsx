/** What is told where there is nothing to show, or not everything yet. */
import { Link } from "@tanstack/react-router";

import { Button } from "../../../ui/Button";
import { Strip } from "../../../ui/Strip";
import { Empty } from "../../shell/states";

export function NoEntries({ id }: { id: string }) {
  return (
    <Empty title="No entries yet">
      <p>
        What people send lands here, the newest first.{" "}
        <Link to="/q/$id/gate" params={{ id }}>
          See who may come in
        </Link>{" "}
        and{" "}
        <Link to="/q/$id/links" params={{ id }}>
          the link to pass on
        </Link>
        .
      </p>
    </Empty>
  );
}

interface ToldProps {
  waiting: number;
  lag: number;
  making: boolean;
  onShow: () => void;
}

/** What the table does not show yet. */
export function Told({ waiting, lag, making, onShow }: ToldProps) {
  return (
    <div aria-live="polite" style={{ padding: "0 20px" }}>
      {waiting ? (
        <Strip>
          {waiting === 1 ? "An entry has" : `${waiting} entries have`} arrived.{" "}
          <Button weight="word" onPress={onShow}>
            Show {waiting === 1 ? "it" : "them"}
          </Button>
        </Strip>
      ) : null}
      {lag ? (
        <Strip>
          {lag === 1 ? "One entry is" : `${lag} entries are`} so new that this view does not know{" "}
          {lag === 1 ? "it" : "them"} yet. It will in a moment.{" "}
          <Button weight="word" onPress={onShow}>
            Look again
          </Button>
        </Strip>
      ) : null}
      {making ? (
        <Strip>This order is being prepared. Until that is done, pages take longer.</Strip>
      ) : null}
    </div>
  );
}
