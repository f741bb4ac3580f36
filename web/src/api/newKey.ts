import { v4 } from "uuid";

/** A name that nobody has used. A phone on a home network has no `crypto.randomUUID`: its page came without encryption. */
export const newKey = (): string => v4();
