/** A value of a field, as it crosses the wire. */
export type FieldValue = string | number | boolean | null;

export type FieldValues = Readonly<Record<string, FieldValue | undefined>>;

/** A field that two people changed: what one of them wants, and what the other made of it meanwhile. */
export interface Collision {
  readonly field: string;
  readonly mine: FieldValue;
  readonly theirs: FieldValue;
}

/**
 * The fields in which a change collides with what was done meanwhile: `seen` is what stood there when the change was
 * begun, `now` what stands there, `wish` what is wanted. A field that still stands as it was seen, or as it is wanted, does
 * not collide; one that was seen and is not in the wish must stand as it was seen, since the wish was made for it.
 */
export function collisions(now: FieldValues, seen: FieldValues, wish: FieldValues): readonly Collision[] {
  return Object.keys(seen).flatMap((field) => {
    const theirs = now[field] ?? null;
    const mine = wish[field] === undefined ? (seen[field] ?? null) : wish[field];
    return theirs === (seen[field] ?? null) || theirs === mine ? [] : [{ field, mine, theirs }];
  });
}
