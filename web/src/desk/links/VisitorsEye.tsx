/** The visitor's eye: what a link lets its visitor learn, looked for in the real responses. */
import { useMutation } from "@tanstack/react-query";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Tag } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { count } from "../document";
import { usePlaceId } from "../shell/Place";

type Eye = Schema<"EyeOut">;

const Side = styled.aside`
  background: var(--paper);
  border-inline-start: 1px solid var(--line);
  padding: 20px 22px 40px;
  display: grid;
  gap: 14px;
  align-content: start;
  min-width: 0;
  overflow-wrap: anywhere;
  h2 {
    font-size: 20px;
  }
  > button {
    justify-self: start;
  }
`;

const Seen = styled.div`
  border: 1px solid var(--line-2);
  border-radius: 4px;
  background: var(--mist);
  padding: 14px 16px;
  display: grid;
  gap: 6px;
  b {
    font: 700 17px var(--head);
  }
`;

const Facts = styled.dl`
  border-top: 1px solid var(--line);
  > div {
    display: grid;
    grid-template-columns: 110px minmax(0, 1fr);
    gap: 10px;
    padding: 9px 0;
    border-bottom: 1px solid var(--line);
  }
  dt {
    color: var(--ink-2);
  }
`;

const NOTHING = "nothing";

function Fact({ name, words }: { name: string; words: string }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd>{words || NOTHING}</dd>
    </div>
  );
}

const list = (values: readonly string[]) => values.join(", ");

function Report({ eye }: { eye: Eye }) {
  const { learned } = eye;
  const read = learned.filter(({ read, leaks }) => read && !leaks);
  const hidden = learned.filter(({ read, unsure }) => !read && !unsure);
  const unsure = learned.filter(({ read, unsure }) => !read && unsure);
  const leaking = learned.filter(({ leaks }) => leaks);
  const others = eye.hidden_options.flatMap(({ name, labels }) => `${name}: ${list(labels)}`);
  return (
    <>
      {leaking.map((one) => (
        <Strip key={one.key} tone="wrong">
          {one.name} is sealed, but “{one.words}” stands in {one.read}.
        </Strip>
      ))}
      <Seen>
        <b>{eye.heading}</b>
        {eye.items.slice(0, 4).map((text, at) => (
          <span key={at}>{text}</span>
        ))}
      </Seen>
      <Facts>
        <Fact name="Can read" words={list(read.map((one) => `${one.name} (in ${one.read})`))} />
        <Fact
          name="Can change"
          words={list(learned.filter(({ changes }) => changes).map(({ name }) => name))}
        />
        <Fact
          name="Cannot learn"
          words={[
            ...hidden.map(({ name, sealed }) => (sealed ? `${name}, sealed` : name)),
            ...others,
            ...eye.hidden_pages.map((title) => `the page ${title}`),
          ].join("; ")}
        />
        {unsure.length ? (
          <Fact
            name="Not looked for"
            words={`${list(unsure.map(({ name }) => name))}: too short to be told from other words`}
          />
        ) : null}
        <Fact name="In the address" words={list(eye.address)} />
        <Fact
          name="Goes out"
          words={[
            eye.referrer ? "the address, to the page gone to next" : "no referrer",
            eye.cookies.length ? count(eye.cookies.length, "cookie") : "no cookie",
          ].join(", ")}
        />
      </Facts>
      <Tag $as={eye.leaks ? "shut" : "open"} style={{ justifySelf: "start" }}>
        Looked for in {count(eye.responses, "response")} just now
      </Tag>
      <Quiet>
        Along {count(eye.seen_pages.length, "page")} with made-up answers. Other answers can lead to
        other pages.
      </Quiet>
    </>
  );
}

export function VisitorsEye({ link }: { link: string }) {
  const id = usePlaceId();
  const looking = useMutation({
    mutationFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/links/eye", {
          params: { path: { id } },
          body: { link },
        }),
      ),
  });
  return (
    <Side aria-labelledby="visitors-eye">
      <h2 id="visitors-eye">The visitor’s eye</h2>
      <p>What somebody who comes by this link can learn, from what their browser is really sent.</p>
      <Button onPress={() => looking.mutate()} isDisabled={looking.isPending}>
        {looking.isPending ? "Looking" : "Look"}
      </Button>
      {looking.isError ? <Strip tone="wrong">{looking.error.message}</Strip> : null}
      <div role="status" style={{ display: "grid", gap: 14 }}>
        {looking.data ? <Report eye={looking.data} /> : null}
      </div>
    </Side>
  );
}
