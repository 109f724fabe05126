/** An entry as it was before it was changed or corrected: what is another answer by now first. */
import { useMutation } from "@tanstack/react-query";
import styled from "styled-components";

import { client, got, type Schema } from "../../../client/client";
import { Tag } from "../../../ui/Arm";
import { Button } from "../../../ui/Button";
import { Strip } from "../../../ui/Strip";
import { Quiet } from "../../../ui/text";
import { whole } from "../../when";

const Was = styled.dl`
  margin: 4px 0 10px;
  border-inline-start: 3px solid var(--line-2);
  padding-inline-start: 10px;
  font-size: 14.5px;
  dt {
    color: var(--ink-2);
    font-size: 13px;
  }
  dd {
    white-space: pre-line;
  }
  ins {
    text-decoration: none;
    font-weight: 600;
  }
`;

interface VersionsProps {
  id: string;
  read: Schema<"EntryRead">;
  /** Why restricted answers are looked at, where that is asked. */
  reason: string;
}

function One({ id, read, reason, version }: VersionsProps & { version: Schema<"VersionOut"> }) {
  const path = { id, entry_id: read.entry.id, version: version.version };
  const open = useMutation({
    mutationFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/entries/{entry_id}/versions/{version}", {
          params: { path },
        }),
      ),
    gcTime: 0,
  });
  const revealing = useMutation({
    mutationFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/entries/{entry_id}/versions/{version}/revealed", {
          params: { path },
          body: { reason },
        }),
      ),
    gcTime: 0,
  });
  const answers = { ...open.data?.answers, ...revealing.data?.answers };
  const after = { ...open.data?.after, ...revealing.data?.after };
  const changed = new Set([...(open.data?.changed ?? []), ...(revealing.data?.changed ?? [])]);
  const columns = (open.data?.columns ?? [])
    .filter(({ key }) => key in answers || changed.has(key))
    .sort((one, other) => Number(changed.has(other.key)) - Number(changed.has(one.key)));
  const hides = open.data?.columns.some(({ restricted }) => restricted);
  const wrong = open.error ?? revealing.error;
  return (
    <li>
      <p>
        {version.by == null
          ? `Changed ${whole(version.replaced)} by whoever sent it.`
          : `Corrected ${whole(version.replaced)} by ${version.by || "somebody of the office"}: ${version.why ?? ""}`}
      </p>
      {open.data ? (
        <Button weight="word" onPress={() => open.reset()}>
          Hide what it said before
        </Button>
      ) : (
        <Button weight="word" isDisabled={open.isPending} onPress={() => open.mutate()}>
          Show what it said before
        </Button>
      )}
      {open.data ? (
        <Was>
          {columns.map(({ key, label, restricted }) => (
            <div key={key}>
              <dt>
                {label} {restricted ? <Tag $as="care">Restricted</Tag> : null}
              </dt>
              <dd>
                {changed.has(key) ? (
                  <>
                    <del>{answers[key] ?? "nothing"}</del> → <ins>{after[key] ?? "nothing"}</ins>
                  </>
                ) : (
                  answers[key]
                )}
              </dd>
            </div>
          ))}
        </Was>
      ) : null}
      {hides && read.cleared && !revealing.data ? (
        <Button weight="word" onPress={() => revealing.mutate()}>
          Read its restricted answers
        </Button>
      ) : null}
      {hides && !read.cleared ? <Quiet>Restricted answers are not on this screen.</Quiet> : null}
      {wrong ? <Strip tone="wrong">{wrong.message}</Strip> : null}
    </li>
  );
}

export function Versions(props: VersionsProps) {
  return (props.read.versions ?? []).map((version) => (
    <One key={version.version} {...props} version={version} />
  ));
}
