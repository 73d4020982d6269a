import { useMemo } from 'react';
import styled from 'styled-components';
import { encode } from 'uqr';

/** Dark on light whatever the theme: scanners expect it. */
const Drawing = styled.svg`
  display: block;
  width: 168px;
  height: 168px;
  margin: 8px 0;
  padding: 8px;
  background: #fff;
  border-radius: 6px;
`;

/** A text as a QR code, for a phone to read. */
export function QrCode({ text, label }: { readonly text: string; readonly label: string }) {
  const { path, size } = useMemo(() => {
    const { data, size } = encode(text, { border: 0 });
    const dots = data.flatMap((row, y) => row.flatMap((isDark, x) => (isDark ? [`M${x} ${y}h1v1h-1z`] : [])));
    return { path: dots.join(''), size };
  }, [text]);
  return (
    <Drawing role="img" aria-label={label} viewBox={`0 0 ${size} ${size}`} shapeRendering="crispEdges">
      <path d={path} fill="#000" />
    </Drawing>
  );
}
