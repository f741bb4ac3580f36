// What is typed into a field is read by the core, the same way everywhere.
import { answer, api, type Schemas } from "../api/client";
import { useQuestion } from "../api/ask";
import { keys } from "../api/keys";

export type Kind = Schemas["FieldKind"];

/** What was there before, and what it is an amount of. */
interface Around {
  before?: string | undefined;
  ingredient?: string | undefined;
}

const ask = (kind: Kind, text: string, around: Around, signal?: AbortSignal) =>
  answer(
    api.POST("/api/compute/read", {
      body: {
        kind,
        text,
        before: around.before ?? null,
        ingredient: around.ingredient ?? null,
      },
      ...(signal ? { signal } : {}),
    }),
  );

/** How a text is understood, or why it isn't. */
export async function readAs(kind: Kind, text: string, around: Around = {}) {
  try {
    return await ask(kind, text, around);
  } catch (fault) {
    return { read: null, unread: { message: (fault as Error).message, choices: [] } };
  }
}

/** The number in a text; what isn't one is said. */
export async function numberIn(kind: Kind, text: string) {
  const { read, unread } = await readAs(kind, text);
  return { number: read?.number ?? NaN, wrong: unread?.message };
}

/** The number in a text, where there are limits to it: outside of them it says what they are. */
export async function numberWithin(
  kind: Kind,
  text: string,
  least: number,
  most: number,
  unit = "",
) {
  const { number, wrong } = await numberIn(kind, text);
  const outside = wrong === undefined && !(number >= least && number <= most);
  return { number, wrong: outside ? `Enter ${least} to ${most}${unit && ` ${unit}`}.` : wrong };
}

/** The numbers in several fields, none for an empty one; or what is wrong with the first that isn't one. */
export async function numbersIn(texts: string[]) {
  const all = await Promise.all(
    texts.map((text) => (text.trim() ? numberIn("number", text) : undefined)),
  );
  return {
    numbers: all.map((one) => one?.number ?? null),
    wrong: all.find((one) => one?.wrong)?.wrong,
  };
}

/** The same while it is typed: no number, and nothing wrong, as long as the answer isn't there. */
export function useRead(kind: Kind, text: string, around: Around = {}) {
  const empty = text.trim() === "";
  const { data, waits } = useQuestion(
    keys.read(kind, text, around),
    (signal) => ask(kind, text, around, signal),
    !empty,
  );
  const said = empty || waits ? undefined : data;
  return {
    number: said?.read?.number ?? NaN,
    text: said?.read?.text,
    understood: said?.read?.understood ?? undefined,
    wrong: said?.unread?.message,
  };
}

/** What a line says that is typed to add something; nothing while it isn't read yet. */
export function useLine(text: string) {
  const { data, waits, latest } = useQuestion(
    keys.line(text),
    (signal) => answer(api.POST("/api/compute/line", { body: { text }, signal })),
    text.trim() !== "",
  );
  return { line: text.trim() === "" || waits ? undefined : data, latest };
}
