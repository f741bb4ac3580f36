import type { Drink, DrinkView } from "../../api/client";

/**
 * What has been changed and is not yet on the shelf. It lies in the browser's own storage from the
 * moment of the change until the server has it, so that closing the window or the lid loses nothing.
 */
export interface Draft {
  /** The version that the change was made on. */
  readonly version: number;
  /** The drink as it was on the screen. */
  readonly drink: Drink;
  /** What was on its way to the shelf at that moment, and the key that it was said under. */
  readonly underway: { readonly drink: Drink; readonly key: string } | undefined;
}

/** Where drafts lie. */
export interface Drafts {
  read(id: string): Draft | undefined;
  write(id: string, draft: Draft): void;
  forget(id: string): void;
}

const place = (id: string) => `keen-pitcher/draft/${id}`;

/** In the browser's own storage, where that is allowed and has room. */
export const browserDrafts: Drafts = {
  read(id) {
    try {
      const text = localStorage.getItem(place(id));
      return text === null ? undefined : (JSON.parse(text) as Draft);
    } catch {
      return undefined;
    }
  },
  write(id, draft) {
    try {
      localStorage.setItem(place(id), JSON.stringify(draft));
    } catch {
      // Without storage the change still goes to the shelf in a moment.
    }
  },
  forget(id) {
    try {
      localStorage.removeItem(place(id));
    } catch {
      // Nothing was stored then.
    }
  },
};

const same = (a: Drink, b: Drink) => JSON.stringify(a) === JSON.stringify(b);

/** What a draft means for a drink as it is on the shelf now. */
export type Found =
  | { readonly kind: "nothing" }
  /** It goes on top of what is on the shelf. */
  | { readonly kind: "goes on"; readonly drink: Drink }
  /** The shelf has another change since. */
  | { readonly kind: "conflict"; readonly drink: Drink };

export function compare(draft: Draft | undefined, kept: DrinkView): Found {
  if (!draft || same(draft.drink, kept.drink)) return { kind: "nothing" };
  const arrived = draft.underway !== undefined && same(draft.underway.drink, kept.drink);
  if (draft.version === kept.version || arrived) return { kind: "goes on", drink: draft.drink };
  return { kind: "conflict", drink: draft.drink };
}
