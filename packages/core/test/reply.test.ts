import fc from 'fast-check';
import { reply, type Reply } from '../src/index.ts';

const of = (text: string, sent?: string): Reply => {
  const result = reply(sent === undefined ? { text } : { text, sent });
  if (!result.ok) throw new Error(`${result.problem.kind} at ${result.problem.at}`);
  return result.value;
};
const SENT = 'Shall we post on Monday?\nPlease check the names.';
const INTRO = 'On Tue, 24 Nov 2026 at 10:02, Odalys wrote:';

test('words, and remarks on the lines they answer (the example of the specification)', () => {
  const text = `Fine by me, see below.\n\n${INTRO}\n> Shall we post on Monday?\nTuesday is better.\n> Please check the names.\nAll right.\n`;
  expect(of(text, SENT)).toEqual({
    words: 'Fine by me, see below.',
    remarks: [
      { on: 'Shall we post on Monday?', says: 'Tuesday is better.' },
      { on: 'Please check the names.', says: 'All right.' },
    ],
  });
});

test.each<[string, string]>([
  ['English', INTRO],
  ['English, over two lines', 'On Tue, 24 Nov 2026 at 10:02, Odalys Renn\n<odalys24@quillmarsh.example> wrote:'],
  ['English, over three lines', 'On Tue, 24 Nov 2026\nat 10:02, Odalys Renn\n<odalys@quillmarsh.example> wrote:'],
  ['English, the name first', 'Odalys Renn <odalys@quillmarsh.example> wrote on 2026-11-24:'],
  ['German', 'Am Di., 24. Nov. 2026 um 10:02 Uhr schrieb Odalys Renn <odalys@quillmarsh.example>:'],
  ['German, the name first', 'Odalys Renn schrieb am 24.11.2026 um 10:02:'],
  ['French', 'Le mar. 24 nov. 2026 à 10:02, Odalys Renn a écrit :'],
  ['Spanish', 'El mar, 24 nov 2026 a las 10:02, Odalys escribió:'],
  ['Spanish, in full', 'El 24 de noviembre de 2026, Odalys escribió:'],
  ['Italian', 'Il giorno mar 24 nov 2026 alle ore 10:02 Odalys ha scritto:'],
  ['Portuguese', 'Em 24/11/2026 10:02, Odalys escreveu:'],
  ['Dutch', 'Op 24-11-2026 om 10:02 schreef Odalys:'],
  ['Swedish', 'Den tis 24 nov. 2026 kl 10:02 skrev Odalys:'],
])('a line that introduces a quote is nobody’s words: %s', (_language, intro) => {
  expect(of(`Yes.\n\n${intro}\n\n> Shall we post on Monday?\n`)).toEqual({ words: 'Yes.', remarks: [] });
});

test.each<[string, string]>([
  ['no quote follows', `${INTRO}\nthat we post on Monday.`],
  ['it names no day', 'As the garden wrote:\n> Shall we post on Monday?'],
  ['it ends with no colon', 'The garden wrote on 24 Nov 2026\n> Shall we post on Monday?'],
  ['it says nothing of writing', 'From 24 Nov 2026 on:\n> Shall we post on Monday?'],
])('a line stays when %s', (_why, text) => {
  const own = text.split('\n').filter((line) => !line.startsWith('>'));
  expect(of(text)).toEqual({ words: own.join('\n'), remarks: [] });
});

test.each<[string, string]>([
  ['a separator', '-----Original Message-----\nFrom: Odalys\nSubject: Monday\n\n'],
  ['a separator alone', '--- Ursprüngliche Nachricht ---\n'],
  ['a line of underscores', '________________________________\nVon: Odalys\nGesendet: Dienstag\nAn: Freya\nBetreff: Montag\n\n'],
  ['lines of a head only', 'De : Odalys\nEnvoyé : mardi\nObjet : Lundi\n\n'],
  ['bold lines of a head', '*From:* Odalys\n*Sent:* Tuesday\n'],
])('behind a head of another mail all is quoted: %s', (_what, head) => {
  expect(of(`Yes.\n\n${head}${SENT}\n`)).toEqual({ words: 'Yes.', remarks: [] });
});

test('one line that looks like one of a head is somebody’s words', () => {
  expect(of('To: all of you\nThank you.')).toEqual({ words: 'To: all of you\nThank you.', remarks: [] });
});

test('behind a head without quote marks only what was sent counts as quoted', () => {
  const text =
    'See below.\n\nFrom: Odalys\nSubject: Monday\n\nShall we  post on Monday?\nTuesday is better.\nPlease check the names.\nDone.\n';
  expect(of(text, SENT)).toEqual({
    words: 'See below.',
    remarks: [
      { on: 'Shall we  post on Monday?', says: 'Tuesday is better.' },
      { on: 'Please check the names.', says: 'Done.' },
    ],
  });
});

test('a head before marked quotes leaves own lines between them as remarks', () => {
  const text = 'From: Odalys\nSubject: Monday\n> Shall we post on Monday?\nNo.\n> Please check the names.\n';
  expect(of(text)).toEqual({ words: '', remarks: [{ on: 'Shall we post on Monday?', says: 'No.' }] });
});

test.each<[string, string, string]>([
  ['to the end', 'Yes.\n--\nFreya Lund\nLighthouse', 'Yes.'],
  ['with a space behind the dashes', 'Yes.\n-- \nFreya Lund', 'Yes.'],
  ['of a device', 'Yes.\n\nSent from my phone', 'Yes.'],
  ['of a device, in German', 'Ja.\n\nVon meinem Telefon gesendet', 'Ja.'],
])('a signature is dropped: %s', (_what, text, words) => {
  expect(of(text).words).toBe(words);
});

test('a signature ends at the next quoted line, and one of a device may stand before the quote', () => {
  expect(of(`Yes.\n--\nFreya\n> Shall we post on Monday?\nOn Tuesday.\n> Please check the names.\nI did.\n--\nFreya`)).toEqual({
    words: 'Yes.',
    remarks: [
      { on: 'Shall we post on Monday?', says: 'On Tuesday.' },
      { on: 'Please check the names.', says: 'I did.' },
    ],
  });
  expect(of(`Yes.\n\nSent from my phone\n\n${INTRO}\n> Shall we post on Monday?`)).toEqual({ words: 'Yes.', remarks: [] });
});

test('what a device might have put there stays where more follows', () => {
  expect(of('Sent from my desk\nto yours.').words).toBe('Sent from my desk\nto yours.');
});

test('under the last quoted line stands the answer, if nothing stands between', () => {
  expect(of(`> Shall we post on Monday?\n>\n\nYes, on Monday.\n\n\n\nFreya\n`)).toEqual({ words: 'Yes, on Monday.\n\nFreya', remarks: [] });
  expect(of(`Hello,\n> Shall we post on Monday?\nYes.`)).toEqual({ words: 'Hello,\n\nYes.', remarks: [] });
});

test('a blank quoted line is no line to answer', () => {
  const { remarks } = of('> Shall we post on Monday?\n>\nNo.\n> Please check the names.\nYes.');
  expect(remarks.map(({ on }) => on)).toEqual(['Shall we post on Monday?', 'Please check the names.']);
  expect(of('>\nNo.\n> Please check the names.')).toEqual({ words: 'No.', remarks: [] });
});

test('marks of all depths are cut, each with the space behind it', () => {
  const { remarks } = of('>> Is it ready?\n> > And the glass?\nBoth.\n>  Good.\n');
  expect(remarks).toEqual([{ on: 'And the glass?', says: 'Both.' }]);
});

test('a quoted line that was changed is a remark on the line as it was sent', () => {
  expect(of('> Shall we post on Tuesday?\n> Please check the names.\n', SENT)).toEqual({
    words: '',
    remarks: [{ on: 'Shall we post on Monday?', says: 'Shall we post on Tuesday?' }],
  });
  expect(of('> something else entirely here\n', SENT).remarks).toEqual([]);
});

test('of several the most alike line was changed, then the first', () => {
  const sent = 'a b c d\na b c e\na b x y';
  expect(of('> a b c f', sent).remarks).toEqual([{ on: 'a b c d', says: 'a b c f' }]);
  expect(of('> a b x z', sent).remarks).toEqual([{ on: 'a b x y', says: 'a b x z' }]);
  expect(of('> a q r s', sent).remarks).toEqual([]);
});

test('a line that a mail program broke into two was not changed', () => {
  const sent = 'Shall we post on Monday and tell the museum about it';
  expect(of('> Shall we post on Monday and tell\n> the museum about it\nYes.', sent)).toEqual({ words: 'Yes.', remarks: [] });
});

test('under an edited line what stands last is a remark', () => {
  expect(of('> Shall we post on Tuesday?\nBecause of the feast.', SENT).remarks).toEqual([
    { on: 'Shall we post on Monday?', says: 'Shall we post on Tuesday?' },
    { on: 'Shall we post on Tuesday?', says: 'Because of the feast.' },
  ]);
});

test('line ends and hard spaces of any program read alike', () => {
  expect(of('Fine.\r\n\r\n>\u00a0Shall we post on Monday?\r\nNo.\u00a0\r\n> Please check the names.\r\n', SENT)).toEqual({
    words: 'Fine.',
    remarks: [{ on: 'Shall we post on Monday?', says: 'No.' }],
  });
});

test('what is no text is refused', () => {
  expect(reply({ text: 4 } as never)).toMatchObject({ ok: false, problem: { kind: 'invalid-field', at: 'text' } });
  expect(reply({ text: '', sent: [] } as never)).toMatchObject({ ok: false, problem: { at: 'sent' } });
});

/** Words that look like nothing a mail program says. */
const word = fc.constantFrom('panels', 'glass', 'names', 'Monday', 'lamp', 'yes', 'no', 'but', 'why');
const line = fc.array(word, { minLength: 1, maxLength: 6 }).map((words) => words.join(' '));

test('nothing a person wrote is lost, wherever they write it, and nothing quoted is taken for theirs', () => {
  const part = fc.record({ isQuoted: fc.boolean(), text: line });
  fc.assert(
    fc.property(fc.array(part, { maxLength: 12 }), fc.boolean(), (parts, hasIntro) => {
      const marked = parts.map(({ isQuoted, text }, index) => ({ isQuoted, text: `${isQuoted ? 'q' : 'o'}${index} ${text}` }));
      const lines = marked.flatMap(({ isQuoted, text }, index) => {
        const isFirst = isQuoted && !marked.slice(0, index).some((one) => one.isQuoted);
        return [...(isFirst && hasIntro ? [INTRO] : []), isQuoted ? `> ${text}` : text];
      });
      const { words, remarks } = of(lines.join('\n'));
      const said = [words, ...remarks.map(({ says }) => says)].join('\n');
      for (const { isQuoted, text } of marked) expect(said.split('\n').includes(text)).toBe(!isQuoted);
      const quoted = marked.filter((one) => one.isQuoted).map(({ text }) => text);
      expect(remarks.every(({ on }) => quoted.includes(on))).toBe(true);
      expect(said).not.toContain('wrote');
    }),
  );
});
