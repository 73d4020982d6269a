import styled from 'styled-components';

const Text = styled.p`
  margin-top: 10px;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  a {
    color: var(--petrol);
  }
`;

/** Plain text whose web addresses can be opened. */
export const LinkedText = ({ text }: { readonly text: string }) => (
  <Text>
    {text.split(/(https?:\/\/[^\s<>"]+)/).map((part, place) =>
      part.startsWith('http') ? (
        <a key={place} href={part}>
          {part}
        </a>
      ) : (
        part
      ),
    )}
  </Text>
);
