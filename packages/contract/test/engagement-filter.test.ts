import {
  hasEveryWord,
  matchesEngagement,
  orderEngagements,
  STANDINGS,
  type EngagementFilter,
  type EngagementTrack,
  type Standing,
  type TrackPhase,
} from '../src/index.ts';

const phase = (name: string, state: TrackPhase['state']): TrackPhase => ({
  ...{ id: name, name, state, start: '2026-11-02', finish: '2026-11-20', percent: 0, baton: 'not-due', stateLine: name },
});
const calm: EngagementTrack = {
  ...{ id: 'e1', name: 'Depot audio trail', clientId: 'c1', client: { name: 'Müller & Søn', hue: 'blue' } },
  ...{ lead: { id: 'l1', name: 'Odalys Renn', initials: 'OR' }, state: 'open', start: '2026-11-02', promise: '2026-12-18' },
  ...{ finish: '2026-12-15', percent: 0, loggedMinutes: 0, effortMinutes: 0, overdue: 0, forecast: null, series: null, stands: null },
  standing: [{ kind: 'on-time' }],
  phases: [phase('Script', 'over'), phase('Studio', 'running'), phase('Install', 'ahead')],
};
const late = (days: number): Standing => ({ kind: 'late', days, finish: '2026-12-30' });

test.each<[string, EngagementFilter, boolean]>([
  ['nothing', {}, true],
  ['words of its name and lead, in any order', { text: 'odalys depot' }, true],
  ['words without their accents', { text: 'muller' }, true],
  ['a word it does not have', { text: 'depot harbour' }, false],
  ['its client', { clientId: 'c1' }, true],
  ['another client', { clientId: 'c2' }, false],
  ['its lead', { leadId: 'l1' }, true],
  ['another lead', { leadId: 'l2' }, false],
  ['the phase that runs', { phase: 'Studio' }, true],
  ['a phase that is over', { phase: 'Script' }, false],
  ['how it stands', { standing: 'on-time' }, true],
  ['how it does not stand', { standing: 'late' }, false],
  ['two that hold', { leadId: 'l1', phase: 'Studio' }, true],
  ['two of which one does not', { leadId: 'l1', phase: 'Install' }, false],
])('a list narrowed by %s', (_name, filter, isShown) => {
  expect(matchesEngagement(calm, filter)).toBe(isShown);
});

test('any reason for its standing finds it, not only the worst', () => {
  const track: EngagementTrack = { ...calm, standing: [{ kind: 'not-picked-up', since: '' }, late(2)] };
  expect(matchesEngagement(track, { standing: 'late' })).toBe(true);
});

test('where nothing runs, it stands in the phase that is next', () => {
  const track: EngagementTrack = { ...calm, phases: [phase('Script', 'over'), phase('Studio', 'ahead'), phase('Install', 'ahead')] };
  expect(matchesEngagement(track, { phase: 'Studio' })).toBe(true);
});

describe('in order', () => {
  const named = (name: string, more: Partial<EngagementTrack>): EngagementTrack => ({ ...calm, name, ...more });
  const names = (tracks: readonly EngagementTrack[]): string[] => tracks.map(({ name }) => name);

  test('of the promise: the next first, those without one last', () => {
    const tracks = [named('none', { promise: null }), named('second', { promise: '2027-01-08' }), named('first', {})];
    expect(names(orderEngagements(tracks, 'promise'))).toEqual(['first', 'second', 'none']);
  });

  test('of standing: a week late, then what is stuck, then the later of two that are a little late', () => {
    const tracks = [
      named('fine', {}),
      named('late 2', { standing: [late(2)] }),
      named('late 4', { standing: [late(4)] }),
      named('sent back', { standing: [{ kind: 'sent-back', since: '', question: '' }] }),
      named('late 5', { standing: [late(5)] }),
    ];
    expect(names(orderEngagements(tracks, 'standing'))).toEqual(['late 5', 'sent back', 'late 4', 'late 2', 'fine']);
  });

  test('of client, then of start; by start it stays as it came', () => {
    const client = (name: string): Pick<EngagementTrack, 'client'> => ({ client: { name, hue: 'blue' } });
    const tracks = [
      named('b', client('Vennick')),
      named('a2', { ...client('Brindle'), start: '2026-12-01' }),
      named('a1', client('Brindle')),
    ];
    expect(names(orderEngagements(tracks, 'client'))).toEqual(['a1', 'a2', 'b']);
    expect(names(orderEngagements(tracks, 'start'))).toEqual(['b', 'a2', 'a1']);
  });
});

test('every reason for a standing has its place in the order, once', () => {
  expect(new Set(STANDINGS).size).toBe(STANDINGS.length);
});

test('nothing typed is found everywhere', () => {
  expect(hasEveryWord('anything', '')).toBe(true);
  expect(hasEveryWord('anything', '  ')).toBe(true);
});
