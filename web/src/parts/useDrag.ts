import { useRef, type PointerEvent } from "react";

type Handler<T extends Element> = (event: PointerEvent<T>) => void;

interface Drag<T extends Element> {
  onPointerDown: Handler<T>;
  onPointerMove: Handler<T>;
  onPointerUp: Handler<T>;
  onPointerCancel: Handler<T>;
}

/** Handlers for something that follows a pressed pointer, from the press on. */
export function useDrag<T extends Element>(follow: Handler<T>): Drag<T> {
  const pressed = useRef(false);
  const release = (): void => {
    pressed.current = false;
  };
  return {
    onPointerDown: (event) => {
      pressed.current = true;
      event.currentTarget.setPointerCapture(event.pointerId);
      follow(event);
    },
    onPointerMove: (event) => {
      if (pressed.current) follow(event);
    },
    onPointerUp: release,
    onPointerCancel: release,
  };
}
