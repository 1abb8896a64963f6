import { useCallback, useState, type RefCallback } from "react";

interface Size {
  width: number;
  height: number;
}

/** The size of an element in pixels, followed as it changes; the first value is its ref. */
export function useSize(): [RefCallback<HTMLDivElement>, Size] {
  const [size, setSize] = useState<Size>({ width: 0, height: 0 });
  const ref = useCallback((element: HTMLDivElement | null) => {
    if (!element) return undefined;
    const watch = new ResizeObserver(([entry]) => {
      if (entry)
        setSize({
          width: Math.floor(entry.contentRect.width),
          height: Math.floor(entry.contentRect.height),
        });
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return [ref, size];
}
