import { dirname, join, relative, sep } from 'node:path';

/**
 * Holds the floors of docs/architecture.md: an area imports its neighbours of the same floor and
 * what lies below, never what stands above. `floors` lists the areas of each floor, the lowest
 * first; files in no area, at the root, may import everything.
 */
export const floors = {
  rules: {
    'no-import-from-above': {
      meta: {
        type: 'problem',
        schema: [{ type: 'object', properties: { root: { type: 'string' }, floors: { type: 'array' } }, additionalProperties: false }],
        messages: {
          above: '“{{ from }}” may not import “{{ to }}”, which stands above it.',
          unknown: '“{{ area }}” has no floor yet. Give it one in eslint.config.js.',
        },
      },
      create(context) {
        const [{ root, floors: list }] = context.options;
        const floorOf = new Map(list.flatMap((areas, floor) => areas.map((area) => [area, floor])));
        const areaOf = (path) => {
          const [area, ...rest] = relative(root, path).split(sep);
          // Features are areas of their own.
          return rest.length === 0 ? null : area === 'features' ? `features/${rest[0]}` : area;
        };
        const floorOfArea = (area) => floorOf.get(area) ?? (area.startsWith('features/') ? floorOf.get('features') : undefined);
        const from = areaOf(context.filename);
        const check = (node) => {
          if (node.source === null || node.source === undefined || !node.source.value.startsWith('.')) return;
          const to = areaOf(join(dirname(context.filename), node.source.value));
          if (to === null || to === from) return;
          if (floorOfArea(to) === undefined) context.report({ node, messageId: 'unknown', data: { area: to } });
          else if (floorOfArea(to) > floorOfArea(from)) context.report({ node, messageId: 'above', data: { from, to } });
        };
        if (from === null) return {};
        if (floorOfArea(from) === undefined)
          return { Program: (node) => context.report({ node, messageId: 'unknown', data: { area: from } }) };
        return { ImportDeclaration: check, ExportNamedDeclaration: check, ExportAllDeclaration: check };
      },
    },
  },
};
