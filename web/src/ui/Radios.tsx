import Box from "@mui/material/Box";
import type { SxProps } from "@mui/material/styles";
import { useEffect, useRef, type KeyboardEvent, type ReactNode } from "react";

interface RadiosProps {
  label: string;
  children: ReactNode;
  sx?: SxProps;
}

const STEPS: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/**
 * A choice of one out of several, drawn in any way: its children are buttons with the role of a radio. The Tab key comes
 * to it once, the arrow keys go from one to the next, Space or Enter chooses. Going along chooses nothing: at a tasting
 * an answer is given on purpose.
 */
export function Radios({ label, children, sx }: RadiosProps) {
  const group = useRef<HTMLDivElement>(null);
  const all = () => [...(group.current?.querySelectorAll<HTMLElement>('[role="radio"]') ?? [])];
  useEffect(() => {
    const radios = all();
    const here =
      radios.find((radio) => radio === document.activeElement) ??
      radios.find((radio) => radio.getAttribute("aria-checked") === "true") ??
      radios[0];
    for (const radio of radios) radio.tabIndex = radio === here ? 0 : -1;
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = STEPS[event.key];
    if (by === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    const radios = all();
    const at = radios.indexOf(event.target as HTMLElement);
    const next = radios[(at + by + radios.length) % radios.length];
    if (at < 0 || !next) return;
    event.preventDefault();
    for (const radio of radios) radio.tabIndex = radio === next ? 0 : -1;
    next.focus();
  };
  return (
    <Box ref={group} role="radiogroup" aria-label={label} onKeyDown={onKeyDown} sx={sx}>
      {children}
    </Box>
  );
}
