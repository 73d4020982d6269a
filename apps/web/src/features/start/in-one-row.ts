interface Part {
  readonly id: string;
}

/** The parts of a template, also those left out, with those that were added where they stand in what will be made. */
export function inOneRow<One extends Part>(whole: readonly One[], made: readonly One[]): readonly One[] {
  const known = new Set(whole.map(({ id }) => id));
  const row = [...whole];
  made.forEach((part, index) => {
    if (known.has(part.id)) return;
    const before = made[index - 1];
    row.splice(before === undefined ? 0 : row.findIndex(({ id }) => id === before.id) + 1, 0, part);
  });
  return row;
}
