import type { Kept } from "./saving";

/**
 * What was changed and isn't saved yet. It is in the browser's own storage from the end of each gesture until the
 * server has it, so that closing the window or the lid loses nothing.
 */
export interface Draft<T> {
  /** The version that the change was made on. */
  readonly version: number;
  /** The document as it was on the screen. */
  readonly content: T;
  /** What was being saved at that moment, and the key of its request. */
  readonly underway: { readonly content: T; readonly key: string } | undefined;
}

/** Where drafts are stored. */
export interface Drafts<T> {
  read(id: string): Draft<T> | undefined;
  write(id: string, draft: Draft<T>): void;
  forget(id: string): void;
}

const place = (id: string) => `keen-pitcher/draft/${id}`;

/** In the browser's own storage, where that is allowed and has room. */
export const browserDrafts = <T>(): Drafts<T> => ({
  read(id) {
    try {
      const text = localStorage.getItem(place(id));
      const draft = text === null ? undefined : (JSON.parse(text) as Draft<T>);
      return draft?.content === undefined ? undefined : draft;
    } catch {
      return undefined;
    }
  },
  write(id, draft) {
    try {
      localStorage.setItem(place(id), JSON.stringify(draft));
    } catch {
      // Without storage the change is still saved in a moment.
    }
  },
  forget(id) {
    try {
      localStorage.removeItem(place(id));
    } catch {
      // Nothing was stored then.
    }
  },
});

const same = <T>(a: T, b: T) => JSON.stringify(a) === JSON.stringify(b);

/** What a draft means for a document as the server has it now. */
export type Found<T> =
  | { readonly kind: "nothing" }
  /** It goes on top of what the server has. */
  | { readonly kind: "goes on"; readonly content: T }
  /** The server has another change since. */
  | { readonly kind: "conflict"; readonly content: T };

export function compare<T>(draft: Draft<T> | undefined, kept: Kept<T>): Found<T> {
  if (!draft || same(draft.content, kept.content)) return { kind: "nothing" };
  const { content, underway, version } = draft;
  const arrived = underway !== undefined && same(underway.content, kept.content);
  const goesOn = version === kept.version || arrived;
  return { kind: goesOn ? "goes on" : "conflict", content };
}
