/** A page to share that is open, where it is found, and a new one. */
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";

import { Button } from "../../../ui/Button";
import { Actions, Sheet } from "../../../ui/Sheet";
import { Strip } from "../../../ui/Strip";
import { Quiet } from "../../../ui/text";
import { AddressBox } from "../../links/AddressBox";
import { usePlaceId } from "../../shell/Place";
import { useRight } from "../../shell/rights";
import { useDoing } from "../../useDoing";
import { onDay, onLastDay, whenAmid } from "../../when";
import type { Around } from "./around";
import {
  addPage,
  changePage,
  closePage,
  removePage,
  sharedPages,
  whole,
  type Content,
  type Given,
  type SharedPage,
} from "./data";
import { PageForm } from "./PageForm";

function useGo() {
  const id = usePlaceId();
  const go = useNavigate();
  return (search: { page?: string }) =>
    void go({ to: "/q/$id/figures/pages", params: { id }, search });
}

interface OnePageProps {
  page: SharedPage;
  around: Around;
}

/** The page as it was read or last changed from here: what somebody else changes meanwhile does not
 * take away what is being written. */
function useRead(page: SharedPage) {
  const [state, setState] = useState({ read: page, times: 0 });
  const { read, times } = state;
  return {
    read,
    times,
    isStale: page.revision > read.revision,
    onRead: (next: SharedPage) => setState({ ...state, read: next }),
    onTheirs: () => setState({ read: page, times: times + 1 }),
  };
}

export function OnePage({ page, around }: OnePageProps) {
  const id = usePlaceId();
  const mayWrite = useRight("write");
  const { read, times, isStale, onRead, onTheirs } = useRead(page);
  const changed = [sharedPages(id).queryKey];
  const doing = async (call: Promise<SharedPage>) => {
    const next = await call;
    if (next.revision === read.revision + 1) onRead(next);
  };
  const keeping = useDoing((given: Given) => doing(changePage(id, read, given)), changed);
  const closing = useDoing((closed: boolean) => doing(closePage(id, read, closed)), changed);
  return (
    <>
      <h2>{page.content.title}</h2>
      <Found page={page} />
      {isStale && mayWrite ? (
        <Strip>
          Somebody changed this page in the meantime.
          <Button
            onPress={() => {
              keeping.reset();
              onTheirs();
            }}
          >
            Show what they made of it
          </Button>
        </Strip>
      ) : null}
      {closing.error ? <Strip tone="wrong">{closing.error.message}</Strip> : null}
      {mayWrite ? (
        <>
          <Actions style={{ justifyContent: "flex-start" }}>
            <Button isDisabled={closing.isPending} onPress={() => closing.mutate(!page.closed)}>
              {page.closed ? "Open it at a new address" : "Close this page"}
            </Button>
            <Removing page={page} />
          </Actions>
          <PageForm
            key={times}
            given={{ content: whole(read.content), live: read.live }}
            around={around}
            keep={read.live ? "Save" : "Save, counted anew"}
            kept={keeping.isSuccess}
            error={keeping.error}
            isPending={keeping.isPending}
            onKeep={keeping.mutate}
          />
        </>
      ) : null}
    </>
  );
}

/** Where people find it, or why they do not. */
function Found({ page }: { page: SharedPage }) {
  const { address, closed, content, live, open, counted } = page;
  if (closed) {
    return (
      <Strip>
        Closed on {onDay(closed)}. Nobody finds it any more, nor will its old address come back.
      </Strip>
    );
  }
  const { until } = content;
  if (until && !open) {
    return <Strip>Nobody finds it any more since {onLastDay(until)} is over.</Strip>;
  }
  return (
    <>
      <AddressBox address={address}>
        <a href={address} target="_blank" rel="noreferrer">
          Look at it
        </a>
        <a href={`${address}/pdf`} target="_blank" rel="noreferrer">
          As PDF
        </a>
      </AddressBox>
      <Quiet>
        Whoever has this address reads it, without signing in
        {until ? `, until ${onLastDay(until)} is over` : ""}.{" "}
        {live || !counted ? "" : `Its figures are as of ${whenAmid(counted)}. `}
        Where few answered, a figure can tell what one of them said: look at it before you send it.
      </Quiet>
    </>
  );
}

function Removing({ page }: { page: SharedPage }) {
  const id = usePlaceId();
  const go = useGo();
  const [isAsking, setAsking] = useState(false);
  const removing = useDoing(
    () => removePage(id, page),
    [sharedPages(id).queryKey],
    () => go({}),
  );
  return (
    <>
      <Button onPress={() => setAsking(true)}>Delete</Button>
      <Sheet
        title={`Delete ${page.content.title}?`}
        open={isAsking}
        onClose={() => setAsking(false)}
      >
        <p>Its address ends, and what is on it is gone. The entries stay.</p>
        {removing.error ? <Strip tone="wrong">{removing.error.message}</Strip> : null}
        <Actions>
          <Button onPress={() => setAsking(false)}>Keep it</Button>
          <Button weight="main" isDisabled={removing.isPending} onPress={() => removing.mutate()}>
            Delete this page
          </Button>
        </Actions>
      </Sheet>
    </>
  );
}

interface NewPageProps {
  content: Content;
  around: Around;
}

export function NewPage({ content, around }: NewPageProps) {
  const id = usePlaceId();
  const go = useGo();
  const adding = useDoing(
    (given: Given) => addPage(id, given),
    [sharedPages(id).queryKey],
    (made) => go({ page: made.id }),
  );
  return (
    <>
      <h2>A new page</h2>
      <PageForm
        given={{ content, live: true }}
        around={around}
        keep="Make this page"
        error={adding.error}
        isPending={adding.isPending}
        onKeep={adding.mutate}
      />
    </>
  );
}
