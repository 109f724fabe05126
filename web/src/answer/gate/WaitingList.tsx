/** Where all places are taken: leave an address for one that comes free. */
import { client, got } from "../../client/client";
import { useSay } from "../../items/words";
import { address } from "../address";
import { MailForm } from "./MailForm";

export function WaitingList() {
  const say = useSay();
  const join = async (email: string) => {
    const body = { email, language: document.documentElement.lang };
    const params = { path: { address } };
    const found = await got(client.POST("/api/public/{address}/waiting", { params, body }));
    return say("waiting_on", { place: found.place, email });
  };
  return <MailForm offer={say("waiting_offer")} send={say("waiting_send")} onSend={join} />;
}
