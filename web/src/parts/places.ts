// What the kinds of place on a surface are called.

/** By the id of a place. */
export const PLACE_NAMES: Record<string, string> = { field: 'flat', recess: 'recess', edge: 'edge' };
