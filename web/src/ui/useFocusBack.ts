import { useLayoutEffect, useRef } from "react";

/** For a panel that opens beside what was touched: when it closes with the focus in it, the focus goes back there. */
export function useFocusBack() {
  const panel = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const from = document.activeElement;
    const here = panel.current;
    return () => {
      const within = here?.contains(document.activeElement);
      if (within && from instanceof HTMLElement && from.isConnected) from.focus();
    };
  }, []);
  return panel;
}
