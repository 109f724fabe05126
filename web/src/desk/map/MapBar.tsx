/** Above the map: how large it is drawn, and what is looked for on it. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Quiet } from "../../ui/text";
import { Toggle } from "../../ui/Toggle";
import type { Zoom } from "./useZoom";

const Bar = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  padding: 8px 16px;
  border-bottom: 1px solid var(--line);
  input {
    border: 1px solid var(--edge);
    border-radius: 4px;
    background: var(--paper);
    padding: 4px 9px;
    min-height: 30px;
    width: 190px;
  }
`;

interface MapBarProps {
  zoom: Zoom;
  onFit: () => void;
  wanted: string;
  onWanted: (words: string) => void;
  found: readonly string[];
  onFound: (at: string) => void;
  /** Whether it shows how many went where; nothing where that cannot be shown. */
  counts?: boolean;
  onCounts: (on: boolean) => void;
}

export function MapBar(props: MapBarProps) {
  const { zoom, onFit, wanted, onWanted, found, onFound, counts, onCounts } = props;
  const [turn, setTurn] = useState(0);
  const next = () => {
    const at = found[turn % found.length];
    if (!at) return;
    setTurn(turn + 1);
    onFound(at);
  };
  return (
    <Bar role="toolbar" aria-label="The map">
      <Button aria-label="Smaller" onPress={zoom.smaller}>
        −
      </Button>
      <Quiet aria-live="polite">{Math.round(zoom.zoom * 100)} %</Quiet>
      <Button aria-label="Larger" onPress={zoom.larger}>
        +
      </Button>
      <Button onPress={onFit}>Fit</Button>
      <Button weight="word" onPress={() => zoom.zoomTo(1)}>
        Full size
      </Button>
      <input
        type="search"
        aria-label="Find on the map"
        placeholder="Find a page or a rule"
        value={wanted}
        onChange={(event) => {
          onWanted(event.target.value);
          setTurn(0);
        }}
        onKeyDown={(event) => {
          if (event.key === "Enter") next();
        }}
      />
      {wanted.trim() ? (
        <Quiet role="status">
          {found.length ? `${found.length} found, Enter goes to the next` : "Nothing found"}
        </Quiet>
      ) : null}
      {counts === undefined ? null : (
        <Toggle isSelected={counts} onChange={onCounts}>
          How many went where
        </Toggle>
      )}
    </Bar>
  );
}
