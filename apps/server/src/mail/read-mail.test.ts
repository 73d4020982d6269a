import { reply } from '@crew/core';
import { readMail } from './read-mail.ts';

const mail = (headers: readonly string[], body: string): Buffer =>
  Buffer.from([...headers, 'Message-ID: <1@small.example>', '', body].join('\r\n'));
const FROM = 'From: Mak Reyes <Mak@Small.example>';
const HTML = 'Content-Type: text/html; charset=utf-8';

test('a page of HTML reads like the text of it: each level of quoting is one mark', async () => {
  const read = await readMail(
    mail(
      [FROM, HTML],
      `<div>Fine by me.</div><div><br></div><blockquote><div>Shall we post on Monday?</div><blockquote>Or Friday?</blockquote></blockquote><p>Tuesday is better.</p><blockquote>Please check the names.</blockquote><p>All right.</p>`,
    ),
    'mak@small.example',
  );
  expect(read.from).toEqual({ address: 'mak@small.example', name: 'Mak Reyes' });
  expect(read.text).toContain('> Shall we post on Monday?');
  expect(read.text).toMatch(/^>\s?> Or Friday\?$/m);
  const said = reply({ text: read.text });
  expect(said).toEqual({
    ok: true,
    value: {
      words: 'Fine by me.',
      remarks: [
        { on: 'Or Friday?', says: 'Tuesday is better.' },
        { on: 'Please check the names.', says: 'All right.' },
      ],
    },
  });
});

test('the plain text is taken where there is one', async () => {
  const parts = ['--x', 'Content-Type: text/plain', '', 'Plain words', '--x', HTML, '', '<p>Rich words</p>', '--x--'].join('\r\n');
  const read = await readMail(mail([FROM, 'Content-Type: multipart/alternative; boundary=x'], parts), 'mak@small.example');
  expect(read.text.trim()).toBe('Plain words');
});

test('a logo of a signature is no attachment, a picture put into the text is one', async () => {
  const picture = (bytes: number, id: string): string[] => [
    '--x',
    'Content-Type: image/png',
    `Content-ID: <${id}>`,
    'Content-Disposition: inline; filename="' + id + '.png"',
    'Content-Transfer-Encoding: base64',
    '',
    Buffer.alloc(bytes, 7)
      .toString('base64')
      .replace(/(.{76})/g, '$1\r\n'),
  ];
  const body = [
    '--x',
    HTML,
    '',
    '<p>Look</p><img src="cid:logo"><img src="cid:sketch">',
    ...picture(500, 'logo'),
    ...picture(20_000, 'sketch'),
    '--x--',
  ];
  const read = await readMail(mail([FROM, 'Content-Type: multipart/related; boundary=x'], body.join('\r\n')), 'mak@small.example');
  expect(read.files.map(({ name }) => name)).toEqual(['sketch.png']);
});

test.each([
  [['Auto-Submitted: auto-replied'], 'mak@small.example', true],
  [['Auto-Submitted: no'], 'mak@small.example', false],
  [['Precedence: bulk'], 'mak@small.example', true],
  [['List-Id: <crew.example>'], 'mak@small.example', true],
  [['X-Autoreply: yes'], 'mak@small.example', true],
  [[], '', true],
  [[], 'mak@small.example', false],
])('a program shows itself by %j from “%s”: %s', async (headers, from, isAutomatic) => {
  expect((await readMail(mail([FROM, ...headers], 'Hello'), from)).automatic !== null).toBe(isAutomatic);
});
