/** Sizes of the drawing in its own pixels: a box, and the room between columns and rows of boxes. */
export const BOX = { width: 138, height: 40 } as const;
export const GAP = { x: 54, y: 14 } as const;
