/** The page where one wants no more letters: none at all, or not of some. */
import { useSay } from "../../items/words";
import { Button } from "../../ui/Button";
import { Frame, Paper } from "../Frame";
import { Press, Words } from "./asking";

/** What a state is called among the words, its heading and its detail. */
const NAMES: Record<string, readonly [string, string]> = {
  ask: ["out", "out"],
  everything: ["out_done", "out_done"],
  questionnaire: ["out_done", "out_questionnaire"],
  kind: ["out_done", "out_kind"],
  back: ["out_back", "out_back"],
};

const UNKNOWN = ["out_unknown", "out_unknown"] as const;

/** `state` says whether they are asked, what they are out of, or that they are back in; `office` is
 * who writes to `email`, about `title` or by a `kind` of letters. */
export function OptOut({ params }: { params: Readonly<Record<string, string>> }) {
  const say = useSay();
  const { state = "unknown", email = "", office = "", title = "", kind = "" } = params;
  const [heading, detail] = NAMES[state] ?? UNKNOWN;
  const asks = state === "ask" || state === "back";
  return (
    <Frame title={office}>
      <Paper>
        <h1>{say(`${heading}_heading`)}</h1>
        <Words role={asks ? undefined : "status"}>
          {say(`${detail}_detail`, { email, office, title, kind })}
        </Words>
        {heading === "out_unknown" ? null : (
          <Press method="post">
            {asks ? (
              <>
                <Button
                  type="submit"
                  name="choice"
                  value="everything"
                  weight={state === "ask" ? "main" : "plain"}
                >
                  {say("out_press")}
                </Button>
                <p>{say("out_or")}</p>
                <Button type="submit" name="choice" value="questionnaire">
                  {say("out_press_questionnaire", { title })}
                </Button>
                {kind ? (
                  <Button type="submit" name="choice" value="kind">
                    {say("out_press_kind", { kind })}
                  </Button>
                ) : null}
              </>
            ) : (
              <Button type="submit" name="choice" value="back">
                {say("out_back")}
              </Button>
            )}
          </Press>
        )}
      </Paper>
    </Frame>
  );
}
