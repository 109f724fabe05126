/** Where people are let in who confirmed a mail address: ask for the letter with the link. */
import { client, got } from "../../client/client";
import { useSay } from "../../items/words";
import { address, way, secret } from "../address";
import { MailForm } from "./MailForm";

export function ConfirmMail() {
  const say = useSay();
  const ask = async (email: string) => {
    const language = document.documentElement.lang;
    const link = window.location.search.slice(1);
    const body = { email, language, link, way, secret };
    const params = { path: { address } };
    await got(client.POST("/api/public/{address}/confirmations", { params, body }));
    return say("confirm_sent", { email });
  };
  return <MailForm offer={say("confirm_offer")} send={say("confirm_send")} onSend={ask} />;
}
