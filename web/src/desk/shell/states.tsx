/** Loading, failing and empty, as every screen shows them. */
import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import styled from "styled-components";

import { Failed } from "../../client/client";
import { Button } from "../../ui/Button";

const Middle = styled.div`
  padding: 60px 24px;
  display: grid;
  gap: 10px;
  justify-items: start;
  max-width: 520px;
  h2 {
    font-size: 20px;
  }
  p {
    color: var(--ink-2);
  }
`;

export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <Middle>
      <h2>{title}</h2>
      {children}
    </Middle>
  );
}

export function Waiting() {
  return (
    <Middle role="status" aria-live="polite">
      <p>One moment</p>
    </Middle>
  );
}

export function Lost() {
  return (
    <Empty title="There is nothing at this address">
      <p>It may have been moved or deleted.</p>
      <a href="/desk">Go to the desk</a>
    </Empty>
  );
}

export function Broken({ error, onRetry }: { error: unknown; onRetry?: () => void }) {
  const failed = error instanceof Failed ? error : new Failed(0, {});
  if (failed.status === 404) return <Lost />;
  return (
    <Empty title={failed.status === 403 ? "Not open to you" : "This cannot be shown just now"}>
      <p role="alert">{failed.message}</p>
      {onRetry && failed.status !== 403 ? <Button onPress={onRetry}>Try again</Button> : null}
    </Empty>
  );
}

/** The data of a query, or what stands in its place until there is some. */
export function Loaded<T>({
  query,
  children,
}: {
  query: UseQueryResult<T>;
  children: (data: T) => ReactNode;
}) {
  if (query.data !== undefined) return children(query.data);
  if (query.isError) return <Broken error={query.error} onRetry={() => void query.refetch()} />;
  return <Waiting />;
}
