import type { MailReply } from '@crew/contract';
import styled from 'styled-components';
import { fileSize } from '../../words/format.ts';

const Said = styled.blockquote`
  margin: 4px 0 6px;
  padding: 6px 10px;
  border-left: 3px solid var(--petrol-mid);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  q {
    display: block;
    margin-top: 6px;
    color: var(--ink-2);
  }
  a {
    color: var(--petrol);
  }
`;

/** What somebody answered: their words, remarks under the lines they are on, and files. */
export function RepliedText({ reply: { words, remarks, files } }: { readonly reply: Pick<MailReply, 'words' | 'remarks' | 'files'> }) {
  if (words === '' && remarks.length === 0 && files.length === 0) return null;
  return (
    <Said>
      {words}
      {remarks.map(({ on, says }, place) => (
        <span key={place}>
          <q>{on}</q>
          {says}
        </span>
      ))}
      {files.map(({ id, name, bytes }) => (
        <p key={id}>
          <a href={`/api/files/${id}`}>{name}</a>, {fileSize(bytes)}
        </p>
      ))}
    </Said>
  );
}
