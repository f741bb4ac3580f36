/** Who of those who are known comes: those who are invited, or everybody where nobody was named. */
export function invited(known: string[], guests: string[]): string[] {
  const here = known.filter((id) => guests.includes(id));
  return here.length > 0 ? here : known;
}

/**
 * The list of guests with one more, or one fewer. Everybody is no list, so that who is met later comes too;
 * and somebody comes always.
 */
export function invite(known: string[], guests: string[], id: string): string[] {
  const before = invited(known, guests);
  const after = known.filter((one) => before.includes(one) !== (one === id));
  if (after.length === 0) return guests;
  return after.length === known.length ? [] : after;
}
