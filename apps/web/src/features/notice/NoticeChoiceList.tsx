import { NOTICE_CHANNEL, NOTICE_KIND_WORDS, type NoticeChannel } from '@crew/contract';
import styled from 'styled-components';
import { useNoticeChoices } from '../../api/queries.ts';
import { ErrorNote, Loading, Muted } from '../../ui/layout.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { choose, chooseMailing } from './use-notices.ts';

const Choices = styled.div`
  flex: 1;
  overflow: auto;
  padding: 6px 16px 12px;
  table {
    width: 100%;
    border-collapse: collapse;
  }
  th {
    padding: 4px 0;
    font-weight: 400;
    text-align: left;
    color: var(--ink-2);
  }
  thead th + th,
  td {
    width: 58px;
    text-align: center;
    label {
      justify-content: center;
    }
  }
  tbody th {
    color: var(--ink);
  }
  tbody tr {
    border-top: 1px solid var(--line-2);
  }
`;
const When = styled.div`
  display: grid;
  gap: 6px;
  padding: 10px 0 2px;
`;

const CHANNEL_WORDS: Readonly<Record<NoticeChannel, string>> = { screen: 'Screen', mail: 'Mail', digest: 'Digest' };

/** Which notices one gets, by kind and channel; from now on. */
export function NoticeChoiceList() {
  const { data, error } = useNoticeChoices();
  if (data === undefined) return error === undefined ? <Loading rows={6} /> : <ErrorNote error={error} />;
  return (
    <Choices>
      <When>
        <Muted>{data.address === null ? 'You have no mail address here: only the screen counts.' : `Mails go to ${data.address}.`}</Muted>
        <Tick isSelected={data.isQuiet} onChange={(isQuiet) => chooseMailing({ isQuiet })}>
          Mail me in my own working hours only
        </Tick>
        <Tick isSelected={data.hasDigest} onChange={(hasDigest) => chooseMailing({ hasDigest })}>
          Send me a digest on working mornings, when there is something new
        </Tick>
      </When>
      <table aria-label="What to tell me about">
        <thead>
          <tr>
            <th scope="col">Tell me of</th>
            {NOTICE_CHANNEL.map((channel) => (
              <th key={channel} scope="col">
                {CHANNEL_WORDS[channel]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {data.kinds.map((one) => (
            <tr key={one.kind}>
              <th scope="row">{NOTICE_KIND_WORDS[one.kind]}</th>
              {NOTICE_CHANNEL.map((channel) => (
                <td key={channel}>
                  <Tick
                    aria-label={`${NOTICE_KIND_WORDS[one.kind]}: ${CHANNEL_WORDS[channel].toLowerCase()}`}
                    isSelected={one[channel]}
                    isDisabled={channel !== 'screen' && data.address === null}
                    onChange={(isOn) => choose({ kind: one.kind, channel, isOn })}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Choices>
  );
}
