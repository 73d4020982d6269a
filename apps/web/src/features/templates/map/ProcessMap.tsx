import {
  Background,
  Controls,
  Handle,
  MarkerType,
  Position,
  ReactFlow,
  useViewport,
  type Connection,
  type Edge,
  type Node,
  type NodeProps,
} from '@xyflow/react';
import '@xyflow/react/dist/base.css';
import type { TemplateContent } from '@crew/core';
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import { useCrew } from '../../../api/queries.ts';
import { Panel } from '../../../ui/layout.tsx';
import { phone } from '../../../ui/tokens.ts';
import { connect, editTask, newId, placeTask, removeTask, removeWay, untie, type Edit } from '../content.ts';
import type { TemplateEditor } from '../use-template-editor.ts';
import { BOX, layOutMap, placeUnder, type MapArrow, type ProcessMapLayout } from './layout.ts';
import { StepNote } from './StepNote.tsx';

const Frame = styled(Panel)`
  height: calc(100vh - 300px);
  min-height: 380px;
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
  padding: 8px 4px 8px 12px;
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

type BoxNode = Node<{ title: string; kind: 'step' | 'client' | 'ending'; parts: number; isOpen: boolean; isReadOnly: boolean }, 'box'>;
type LaneNode = Node<{ isOdd: boolean }, 'lane'>;
type PhaseNode = Node<Record<string, never>, 'phase'>;
type MapNode = BoxNode | LaneNode | PhaseNode;

function BoxView({ data }: NodeProps<BoxNode>) {
  return (
    <Box $kind={data.kind} $isOpen={data.isOpen} title={data.title}>
      <span>{data.title}</span>
      {data.parts === 0 ? null : <small title="subtasks behind it">{data.parts}</small>}
      <Spot type="target" position={Position.Left} isConnectable={!data.isReadOnly && data.kind !== 'ending'} />
      <Spot type="source" position={Position.Right} isConnectable={!data.isReadOnly && data.kind !== 'ending'} />
      <Spot id="below" type="source" position={Position.Bottom} isConnectable={false} style={{ visibility: 'hidden' }} />
      <Spot id="under" type="target" position={Position.Bottom} isConnectable={false} style={{ visibility: 'hidden' }} />
    </Box>
  );
}
const LaneView = ({ data }: NodeProps<LaneNode>) => <Lane $isOdd={data.isOdd} />;
const PhaseView = () => <PhaseEdge />;
const NODE_TYPES = { box: BoxView, lane: LaneView, phase: PhaseView };

interface Drag {
  readonly layout: ProcessMapLayout;
  readonly places: ReadonlyMap<string, { readonly x: number; readonly y: number }>;
}
const NOWHERE: Drag['places'] = new Map();

interface MapProps {
  readonly editor: TemplateEditor;
  readonly isReadOnly: boolean;
  readonly openPart: string | null;
  readonly onOpen: (id: string) => void;
}

/**
 * The template drawn: boxes in lanes by role, phases above, loops and endings with their
 * reasons. Drawing an arrow ties two steps, or makes a loop where it leads back; a box let
 * go in another lane or phase belongs there. The map is the template: nothing is kept twice.
 */
export function ProcessMap({ editor, isReadOnly, openPart, onOpen }: MapProps) {
  const { content, edit } = editor;
  const roles = useCrew().data?.roles;
  const layout = useMemo(() => layOutMap(content, (id) => roles?.find((role) => role.id === id)?.name ?? ''), [content, roles]);
  const laid = useMemo(() => nodesOf(layout, { openPart, isReadOnly }), [layout, openPart, isReadOnly]);
  const [drag, setDrag] = useState<Drag>({ layout, places: new Map() });
  // A box that was let go lies where the layout says, as soon as there is a new one.
  const places = drag.layout === layout ? drag.places : NOWHERE;
  const nodes = laid.map((node) => ({ ...node, position: places.get(node.id) ?? node.position }));
  const edges = useMemo(() => edgesOf(layout), [layout]);
  const step = content.tasks.find((task) => task.id === openPart) ?? null;
  return (
    <>
      <Frame aria-label="Process map">
        <ReactFlow<MapNode, Edge>
          nodes={nodes}
          edges={edges}
          nodeTypes={NODE_TYPES}
          colorMode="light"
          defaultViewport={{ x: 0, y: 0, zoom: 0.9 }}
          panOnScroll
          minZoom={0.25}
          maxZoom={1.6}
          nodesDraggable={!isReadOnly}
          nodesConnectable={!isReadOnly}
          deleteKeyCode={isReadOnly ? null : ['Delete', 'Backspace']}
          onNodesChange={(changes) => {
            const moved = changes.flatMap((change) =>
              change.type === 'position' && change.position !== undefined ? [[change.id, change.position] as const] : [],
            );
            if (moved.length > 0) setDrag({ layout, places: new Map([...places, ...moved]) });
          }}
          onNodeClick={(_, node) =>
            node.type === 'box' ? onOpen(node.data.kind === 'ending' ? fromOf(content, node.id) : node.id) : undefined
          }
          onNodeDragStop={(_, node) => {
            const place = placeUnder(layout, node.position);
            const moved = node.type === 'box' && place !== null ? dropStep(content, node.id, place) : null;
            if (moved === null) setDrag({ layout, places: NOWHERE });
            else edit(moved);
          }}
          onConnect={(connection: Connection) => edit(connect(connection.source, connection.target, { id: newId(), reason: 'changes' }))}
          onNodesDelete={(gone) => {
            for (const node of gone)
              if (node.type === 'box') edit(node.data.kind === 'ending' ? removeWay(node.id.slice(7)) : removeTask(node.id));
          }}
          onEdgesDelete={(gone) => {
            for (const arrow of gone) edit(arrow.data?.['kind'] === 'next' ? untie(arrow.source, arrow.target) : removeWay(arrow.id));
          }}
        >
          <Background color="transparent" />
          <Edges layout={layout} onOpen={onOpen} />
          <Controls showInteractive={false} position="bottom-right" />
        </ReactFlow>
      </Frame>
      <StepNote editor={editor} step={step} isReadOnly={isReadOnly} onOpen={onOpen} />
    </>
  );
}

/** Phases stay at the upper edge and lanes at the left one, wherever the map is moved. */
function Edges({ layout, onOpen }: { readonly layout: ProcessMapLayout; readonly onOpen: (id: string) => void }) {
  const { x, y, zoom } = useViewport();
  return (
    <>
      {layout.lanes.map((lane) => (
        <LaneName key={lane.id} style={{ top: lane.y * zoom + y }}>
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
      </PhaseRow>
    </>
  );
}

const fromOf = (content: TemplateContent, ending: string): string =>
  content.ways.find((way) => `ending ${way.id}` === ending)?.fromId ?? '';

/** A step let go in another lane gets its role, in another phase stands there; null when it lies where it was. */
function dropStep(
  content: TemplateContent,
  id: string,
  { laneId, phaseId }: { readonly laneId: string; readonly phaseId: string },
): Edit | null {
  const task = content.tasks.find((candidate) => candidate.id === id);
  if (task === undefined) return null;
  const lane = task.kind === 'client' ? 'client' : (task.roleId ?? 'none');
  if (lane === laneId && task.phaseId === phaseId) return null;
  return (before) => {
    const placed = task.phaseId === phaseId ? before : placeTask(id, { phaseId })(before);
    if (lane === laneId) return placed;
    const who =
      laneId === 'client'
        ? { kind: 'client', roleId: null, isShownToClient: true }
        : { kind: task.kind === 'client' ? 'work' : task.kind, roleId: laneId === 'none' ? null : laneId };
    return editTask(id, who)(placed);
  };
}

interface Shown {
  readonly openPart: string | null;
  readonly isReadOnly: boolean;
}

function nodesOf(layout: ProcessMapLayout, { openPart, isReadOnly }: Shown): MapNode[] {
  const still = { draggable: false, selectable: false, connectable: false, deletable: false } as const;
  const lanes = layout.lanes.map((lane, place): LaneNode => ({
    ...{
      id: `lane ${lane.id}`,
      type: 'lane',
      position: { x: 0, y: lane.y },
      width: layout.width,
      height: lane.height,
      zIndex: -2,
      focusable: false,
    },
    ...still,
    data: { isOdd: place % 2 === 1 },
  }));
  const phases = layout.phases.map((phase): PhaseNode => ({
    ...{
      id: `phase ${phase.id}`,
      type: 'phase',
      position: { x: phase.x, y: 0 },
      width: phase.width,
      height: layout.height,
      zIndex: -1,
      focusable: false,
    },
    ...still,
    data: {},
  }));
  const boxes = layout.boxes.map((box): BoxNode => ({
    ...{ id: box.id, type: 'box', position: { x: box.x, y: box.y }, width: BOX.width, height: BOX.height, ariaLabel: box.title },
    draggable: box.kind !== 'ending' && !isReadOnly,
    data: { title: box.title, kind: box.kind, parts: box.parts, isOpen: box.id === openPart, isReadOnly },
  }));
  return [...lanes, ...phases, ...boxes];
}

const STROKE: Readonly<Record<MapArrow['kind'], string>> = { next: 'var(--ink-2)', back: 'var(--amber)', ending: 'var(--ink-2)' };

function edgesOf(layout: ProcessMapLayout): Edge[] {
  return layout.arrows.map((arrow) => {
    const isBack = arrow.kind === 'back';
    return {
      id: arrow.id,
      source: arrow.from,
      target: arrow.to,
      type: 'smoothstep',
      className: arrow.kind,
      label: arrow.label,
      labelBgPadding: [4, 1] as [number, number],
      // Above its line, which is short between neighbours.
      labelStyle: { transform: 'translateY(-10px)' },
      labelBgStyle: { transform: 'translateY(-10px)' },
      ...(isBack ? { sourceHandle: 'below', targetHandle: 'under' } : {}),
      style: { stroke: STROKE[arrow.kind], strokeWidth: 1.5, ...(arrow.kind === 'ending' ? { strokeDasharray: '4 3' } : {}) },
      markerEnd: { type: MarkerType.ArrowClosed, color: isBack ? 'var(--amber)' : 'var(--ink-2)', width: 16, height: 16 },
      pathOptions: { borderRadius: 4, offset: isBack ? 14 : 12 },
      data: { kind: arrow.kind },
      ariaLabel: arrow.label === '' ? 'then' : arrow.label,
    };
  });
}
