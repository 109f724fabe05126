/** What a visitor sent before: change it, or have a link sent by which one can. */
import styled from "styled-components";

import { client, got } from "../../client/client";
import { useSay } from "../../items/words";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { address, way } from "../address";
import { MailForm } from "../gate/MailForm";

const Line = styled.form`
  margin-top: 14px;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  button {
    min-height: 44px;
  }
`;

export interface Own {
  says: string;
  /** Where one begins to change it; empty while one does. */
  href?: string;
}

/** Says so on the first page, and leads there. */
export function OwnEntry({ says, href }: Own) {
  const say = useSay();
  if (!href) return <Strip>{says}</Strip>;
  return (
    <Line method="post" action={href}>
      <span>{says}</span>
      <Button type="submit">{say("own_change")}</Button>
    </Line>
  );
}

/** Instead of a page: the path is that of the page, without the language behind it. */
export function ChangeOwn() {
  const say = useSay();
  const parts = window.location.pathname.split("/").slice(0, way ? 4 : 3);
  return (
    <Line method="post" action={`${parts.join("/")}/own`}>
      <Button type="submit" weight="main">
        {say("own_change")}
      </Button>
    </Line>
  );
}

/** Once it is sent: a letter with a link, for later. */
export function OwnLetter({ submission }: { submission: string }) {
  const say = useSay();
  const ask = async (email: string) => {
    const body = { email, language: document.documentElement.lang };
    const params = { path: { address }, header: { "idempotency-key": submission } };
    await got(client.POST("/api/public/{address}/own/letter", { params, body }));
    return say("own_letter", { email });
  };
  return <MailForm offer={say("own_offer")} send={say("own_send")} onSend={ask} />;
}
