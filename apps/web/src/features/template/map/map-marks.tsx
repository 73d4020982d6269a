import {
  BaseEdge,
  Handle,
  Position,
  getSmoothStepPath,
  useViewport,
  type Edge,
  type EdgeProps,
  type Node,
  type NodeProps,
} from '@xyflow/react';
import type { CSSProperties } from 'react';
import styled from 'styled-components';
import { Panel } from '../../../ui/layout.tsx';
import { phone } from '../../../ui/tokens.ts';
import type { MapArrow, ProcessMapLayout } from './layout.ts';
import { pathOf, wordsAt } from './routes.ts';
import { BOX } from './sizes.ts';

export const Frame = styled(Panel)`
  height: calc(100vh - 336px);
  min-height: 360px;
  overflow: hidden;
  .react-flow__attribution {
    display: none;
  }
  .react-flow__edge-text {
    font:
      500 11.5px 'Hanken Grotesk Variable',
      sans-serif;
    fill: var(--ink-2);
  }
  .react-flow__edge.back .react-flow__edge-text {
    fill: var(--amber);
  }
  .react-flow__edge-textbg {
    fill: var(--panel);
  }
  .react-flow__edge.selected path,
  .react-flow__edge:focus-visible path {
    stroke: var(--petrol) !important;
    stroke-width: 2.5;
  }
  .react-flow__node:focus-visible {
    outline: 2px solid var(--petrol);
    outline-offset: 2px;
    border-radius: 4px;
  }
  .react-flow__controls {
    box-shadow: none;
    border: 1px solid var(--line);
    border-radius: 5px;
    overflow: hidden;
  }
  .react-flow__controls-button {
    border: 0;
    background: var(--panel);
    border-bottom: 1px solid var(--line-2);
    fill: var(--ink-2);
    width: 26px;
    height: 26px;
  }
  ${phone} {
    height: 60vh;
  }
`;
const Lane = styled.div<{ $isOdd: boolean }>`
  width: 100%;
  height: 100%;
  border-top: 1px solid var(--line);
  background: ${({ $isOdd }) => ($isOdd ? 'var(--sunk)' : 'var(--panel)')};
`;
const PhaseEdge = styled.div`
  width: 100%;
  height: 100%;
  border-left: 1px dashed var(--line);
`;
const LaneName = styled.div`
  position: absolute;
  z-index: 5;
  left: 0;
  width: 118px;
  padding: 0 4px 0 12px;
  display: -webkit-box;
  -webkit-box-orient: vertical;
  overflow: hidden;
  font-weight: 600;
  font-size: 12.5px;
  line-height: 1.25;
  color: var(--ink-2);
  pointer-events: none;
  text-shadow:
    0 0 4px var(--panel),
    0 0 4px var(--panel);
`;
const PhaseRow = styled.div`
  position: absolute;
  z-index: 6;
  inset: 0 0 auto 0;
  height: 50px;
  overflow: hidden;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
  > small {
    position: absolute;
    left: 12px;
    bottom: 7px;
    font-size: 12px;
    color: var(--ink-2);
  }
`;
const PhaseHead = styled.button`
  position: absolute;
  top: 0;
  height: 50px;
  padding: 8px 0 0;
  border: 0;
  background: var(--panel);
  text-align: left;
  cursor: pointer;
  font-weight: 650;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  &:hover {
    color: var(--petrol);
  }
  > span {
    display: flex;
    align-items: center;
    margin-top: 5px;
  }
  i {
    flex: 1;
    height: 11px;
    border-radius: 3px;
    background: var(--petrol);
  }
  b {
    flex: none;
    width: 12px;
    height: 12px;
    margin: 0 3px 0 2px;
    border: 1.6px solid var(--joint);
    border-radius: 50%;
    background: var(--panel);
  }
`;
const AddPhase = styled.button`
  position: absolute;
  bottom: 5px;
  padding: 3px 6px;
  border: 0;
  background: transparent;
  color: var(--petrol);
  font-weight: 600;
  cursor: pointer;
`;
const Box = styled.div<{ $kind: 'step' | 'client' | 'ending'; $isOpen: boolean }>`
  display: flex;
  align-items: center;
  width: ${BOX.width}px;
  height: ${BOX.height}px;
  padding: 0 9px;
  border: 1.5px solid ${({ $kind, $isOpen }) => ($isOpen ? 'var(--petrol)' : $kind === 'client' ? 'var(--amber)' : 'var(--petrol-mid)')};
  border-style: ${({ $kind }) => ($kind === 'ending' ? 'dashed' : 'solid')};
  border-radius: 4px;
  background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'var(--panel)')};
  font-weight: 600;
  font-size: 12px;
  line-height: 1.2;
  > span {
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    overflow: hidden;
  }
  small {
    margin-left: auto;
    padding-left: 5px;
    font-weight: 500;
    color: var(--ink-2);
  }
`;
const Spot = styled(Handle)`
  && {
    width: 9px;
    height: 9px;
    border: 1.5px solid var(--petrol);
    border-radius: 50%;
    background: var(--panel);
  }
  opacity: 0;
  .react-flow__node:hover &,
  .react-flow__node:focus-visible & {
    opacity: 1;
  }
`;

const HiddenSpot = styled(Spot)`
  visibility: hidden;
`;

export type BoxNode = Node<
  { title: string; kind: 'step' | 'client' | 'ending'; parts: number; isOpen: boolean; isReadOnly: boolean },
  'box'
>;
export type LaneNode = Node<{ isOdd: boolean }, 'lane'>;
export type PhaseNode = Node<Record<string, never>, 'phase'>;
export type MapNode = BoxNode | LaneNode | PhaseNode;
export type ArrowEdge = Edge<{ arrow: MapArrow }, 'arrow'>;

function BoxView({ data }: NodeProps<BoxNode>) {
  return (
    <Box $kind={data.kind} $isOpen={data.isOpen} title={data.title}>
      <span>{data.title}</span>
      {data.parts === 0 ? null : <small title="subtasks behind it">{data.parts}</small>}
      <Spot type="target" position={Position.Left} isConnectable={!data.isReadOnly && data.kind !== 'ending'} />
      <Spot type="source" position={Position.Right} isConnectable={!data.isReadOnly && data.kind !== 'ending'} />
      <HiddenSpot id="below" type="source" position={Position.Bottom} isConnectable={false} />
      <HiddenSpot id="under" type="target" position={Position.Bottom} isConnectable={false} />
    </Box>
  );
}
const LaneView = ({ data }: NodeProps<LaneNode>) => <Lane $isOdd={data.isOdd} />;
const PhaseView = () => <PhaseEdge />;
export const NODE_TYPES = { box: BoxView, lane: LaneView, phase: PhaseView };

/** A handle lies half outside its box. */
const NEARLY = 6;

/** A line along its corners; while one of its boxes is dragged, it follows that box. */
function ArrowView({ data, markerEnd, style, label, ...ends }: EdgeProps<ArrowEdge>) {
  if (data === undefined) return null;
  const { points, kind } = data.arrow;
  const [first, last] = [points[0], points.at(-1)];
  const isStill =
    first !== undefined &&
    last !== undefined &&
    Math.abs(first.x - ends.sourceX) + Math.abs(first.y - ends.sourceY) < NEARLY &&
    Math.abs(last.x - ends.targetX) + Math.abs(last.y - ends.targetY) < NEARLY;
  const path = isStill ? pathOf(points) : getSmoothStepPath({ ...ends, borderRadius: 4 })[0];
  const at = wordsAt(points);
  return (
    <BaseEdge
      path={path}
      {...(markerEnd === undefined ? {} : { markerEnd })}
      {...(style === undefined ? {} : { style })}
      {...(isStill && label !== '' ? { label } : {})}
      labelX={at.x}
      // Above its line, which is short between neighbours; the words of a loop lie on theirs, which is long.
      labelY={kind === 'back' ? at.y : at.y - 10}
      labelBgPadding={[4, 1]}
    />
  );
}
export const EDGE_TYPES = { arrow: ArrowView };

/** The name of a lane in as many lines as its height has room for, and smaller on a map seen from afar. */
function nameOf(height: number, { top, zoom }: { readonly top: number; readonly zoom: number }): CSSProperties {
  const size = zoom < 0.5 ? { fontSize: 11 } : {};
  return height < 34 ? { ...size, top: top + 2, WebkitLineClamp: 1 } : { ...size, top: top + 8, WebkitLineClamp: height < 50 ? 1 : 3 };
}

interface MapEdgesProps {
  readonly layout: ProcessMapLayout;
  readonly onOpen: (id: string) => void;
  /** Null where nothing may be added. */
  readonly onAddPhase: (() => void) | null;
}

/** Phases stay at the upper edge and lanes at the left one, wherever the map is moved. */
export function MapEdges({ layout, onOpen, onAddPhase }: MapEdgesProps) {
  const { x, y, zoom } = useViewport();
  const last = layout.phases.at(-1);
  return (
    <>
      {layout.lanes.map((lane) => (
        <LaneName key={lane.id} style={nameOf(lane.height * zoom, { top: lane.y * zoom + y, zoom })}>
          {lane.name}
        </LaneName>
      ))}
      <PhaseRow>
        <small>phases</small>
        {layout.phases.map((phase) => (
          <PhaseHead
            key={phase.id}
            type="button"
            title={`${phase.name}: state line, gate and rounds`}
            style={{ left: phase.x * zoom + x + 8, width: phase.width * zoom - 8 }}
            onClick={() => onOpen(phase.id)}
          >
            {phase.name}
            <span>
              <i />
              <b />
            </span>
          </PhaseHead>
        ))}
        {onAddPhase === null || last === undefined ? null : (
          <AddPhase type="button" style={{ left: (last.x + last.width) * zoom + x + 10 }} onClick={onAddPhase}>
            Add a phase
          </AddPhase>
        )}
      </PhaseRow>
    </>
  );
}
