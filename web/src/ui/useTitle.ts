import { useEffect } from "react";

const PRODUCT = "Keen Pitcher";

/** What the window is called while this is on the screen: in its tab, its history and its bookmarks. */
export function useTitle(title: string) {
  useEffect(() => {
    document.title = title ? `${title} · ${PRODUCT}` : PRODUCT;
    return () => {
      document.title = PRODUCT;
    };
  }, [title]);
}
