/** Loading, failing and empty, as every screen shows them. */
import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import styled from "styled-components";

import { ApiError } from "../../client/client";
import { Button } from "../../ui/Button";

const Middle = styled.div`
  padding: 60px 24px;
  display: grid;
  gap: 10px;
  justify-items: start;
  max-width: 520px;
  h1,
  h2 {
    font-size: 20px;
  }
  p {
    color: var(--ink-2);
  }
`;

/** As the whole page, as all that a room shows, or as a part below other headings. */
type Stands = "page" | "room" | "part";

interface EmptyProps {
  title: string;
  stands?: Stands;
  children?: ReactNode;
}

export function Empty({ title, stands = "part", children }: EmptyProps) {
  const page = stands === "page";
  return (
    <Middle as={page ? "main" : "div"} id={page ? "main" : undefined} tabIndex={-1}>
      {stands === "part" ? <h2>{title}</h2> : <h1>{title}</h1>}
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

export function Lost({ stands = "page" }: { stands?: Stands }) {
  return (
    <Empty title="There is nothing at this address" stands={stands}>
      <p>It may have been moved or deleted.</p>
      <a href="/desk">Go to the desk</a>
    </Empty>
  );
}

interface BrokenProps {
  error: unknown;
  onRetry?: () => void;
  stands?: Stands;
}

export function Broken({ error, onRetry, stands = "part" }: BrokenProps) {
  const failed = error instanceof ApiError ? error : new ApiError(0, {});
  if (failed.status === 404) return <Lost stands={stands} />;
  const title = failed.status === 403 ? "Not open to you" : "This cannot be shown just now";
  return (
    <Empty title={title} stands={stands}>
      <p role="alert">{failed.message}</p>
      {onRetry && failed.status !== 403 ? <Button onPress={onRetry}>Try again</Button> : null}
    </Empty>
  );
}

/** The data of a query, or what stands in its place until there is some. */
export function Loaded<T>({
  query,
  stands = "part",
  children,
}: {
  query: UseQueryResult<T>;
  stands?: Stands;
  children: (data: T) => ReactNode;
}) {
  if (query.data !== undefined) return children(query.data);
  if (query.isError) {
    return <Broken error={query.error} onRetry={() => void query.refetch()} stands={stands} />;
  }
  return <Waiting />;
}
