import { useEffect } from "react";
import { useLocation, useNavigate } from "react-router";
import type { Spot } from "../../api/client";

/** A target that somebody comes here with, from a tasting: it is aimed at once, and then forgotten. */
export function useAimBrought(set: (part: { ring: Spot }) => void) {
  const location = useLocation();
  const go = useNavigate();
  const brought = (location.state as { ring?: Spot } | null)?.ring;
  useEffect(() => {
    if (!brought) return;
    set({ ring: brought });
    void go(location.pathname, { replace: true, state: null });
  }, [brought, set, go, location.pathname]);
}
