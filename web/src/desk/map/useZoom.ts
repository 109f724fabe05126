/** How large the map is drawn; what is in the middle, or below the pointer, stays where it is. */
import { useCallback, useEffect, useRef, useState, type RefObject } from "react";
import { flushSync } from "react-dom";

const LEAST = 0.1;
const MOST = 2;
const STEP = 1.25;

interface Size {
  width: number;
  height: number;
}

export interface Zoom {
  /** What the map is scrolled in. */
  view: RefObject<HTMLDivElement | null>;
  zoom: number;
  zoomTo: (zoom: number, x?: number, y?: number) => void;
  larger: () => void;
  smaller: () => void;
  /** So that all of it is seen at once. */
  fit: (map: Size) => void;
}

export function useZoom(): Zoom {
  const view = useRef<HTMLDivElement>(null);
  const [zoom, setZoom] = useState(1);
  const held = useRef(1);
  const zoomTo = useCallback((wanted: number, x?: number, y?: number) => {
    const box = view.current;
    if (!box) return;
    const next = Math.min(MOST, Math.max(LEAST, wanted));
    const by = next / held.current;
    held.current = next;
    const [across, down] = [x ?? box.clientWidth / 2, y ?? box.clientHeight / 2];
    const [left, top] = [(box.scrollLeft + across) * by, (box.scrollTop + down) * by];
    flushSync(() => setZoom(next));
    box.scrollTo(left - across, top - down);
  }, []);
  useEffect(() => {
    const box = view.current;
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      const { left = 0, top = 0 } = box?.getBoundingClientRect() ?? {};
      const by = event.deltaY < 0 ? 1.1 : 1 / 1.1;
      zoomTo(held.current * by, event.clientX - left, event.clientY - top);
    };
    box?.addEventListener("wheel", wheel, { passive: false });
    return () => box?.removeEventListener("wheel", wheel);
  }, [zoomTo]);
  const fit = useCallback(
    ({ width, height }: Size) => {
      const box = view.current;
      if (box) zoomTo(Math.min(box.clientWidth / width, box.clientHeight / height, 1));
    },
    [zoomTo],
  );
  return {
    view,
    zoom,
    zoomTo,
    larger: () => zoomTo(zoom * STEP),
    smaller: () => zoomTo(zoom / STEP),
    fit,
  };
}
