import { Background, Controls, MarkerType, ReactFlow, type Connection, type ReactFlowInstance, type XYPosition } from '@xyflow/react';
import '@xyflow/react/dist/base.css';
import type { TemplateContent, TemplateWay } from '@crew/core';
import { useMemo, useRef, useState, type KeyboardEvent, type MouseEvent, type RefObject } from 'react';
import { useCrew } from '../../../api/queries.ts';
import { addPhase, connect, moveStep, newId, removeTask, removeWay, type Edit } from '../content.ts';
import type { TemplateEditor } from '../use-template-editor.ts';
import { endingId, layOutMap, placeUnder, removeArrow, type MapArrow, type ProcessMapLayout } from './layout.ts';
import { boxBeside, directionOf, placeBeside } from './map-keys.ts';
import {
  EDGE_TYPES,
  Frame,
  MapEdges,
  NODE_TYPES,
  type ArrowEdge,
  type BoxNode,
  type LaneNode,
  type MapNode,
  type PhaseNode,
} from './map-marks.tsx';
import { BOX } from './sizes.ts';
import { StepNote, type Asking } from './StepNote.tsx';

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
  /** Nothing is chosen any more. */
  readonly onClose: () => void;
  /** Opens all a step presets beside the map. */
  readonly onPresets: (id: string) => void;
}

/**
 * The template drawn: boxes in lanes by role, phases above, loops and endings with their
 * reasons. Drawing an arrow makes a dependency, or a loop where it leads back; a box let
 * go in another lane or phase belongs there. All of it can be done by keys as well. The map
 * is the template: nothing is kept twice.
 */
export function ProcessMap(props: MapProps) {
  const { editor, isReadOnly, openPart, onPresets } = props;
  const whole = useRef<HTMLDivElement>(null);
  const flow = useRef<Flow>(null);
  const map = useProcessMap(props, { whole, flow });
  const { content } = editor;
  return (
    <div ref={whole} onKeyDownCapture={map.byKeys}>
      <Frame aria-label="Process map" onDoubleClick={map.addHere}>
        <Drawn map={map} editor={editor} isReadOnly={isReadOnly} onReady={(instance) => (flow.current = instance)} />
      </Frame>
      <StepNote
        editor={editor}
        isReadOnly={isReadOnly}
        step={content.tasks.find((task) => task.id === openPart) ?? null}
        arrow={map.layout.arrows.find((candidate) => candidate.id === map.arrowId) ?? null}
        asking={map.asking}
        onAsk={map.setAsking}
        onOpen={map.open}
        onPresets={onPresets}
        onRemove={map.remove}
      />
    </div>
  );
}

type Flow = ReactFlowInstance<MapNode, ArrowEdge>;

interface MapRefs {
  readonly whole: RefObject<HTMLDivElement | null>;
  readonly flow: RefObject<Flow | null>;
}

/** What is chosen on the map, and what is done with it. */
function useProcessMap({ editor, isReadOnly, openPart, onOpen, onClose }: MapProps, { whole, flow }: MapRefs) {
  const { content, edit } = editor;
  const roles = useCrew().data?.roles;
  const layout = useMemo(() => layOutMap(content, (id) => roles?.find((role) => role.id === id)?.name ?? ''), [content, roles]);
  const placed = useMemo(() => nodesOf(layout, { openPart, isReadOnly }), [layout, openPart, isReadOnly]);
  const [arrowId, setArrow] = useState<string | null>(null);
  const [asking, setAsking] = useState<Asking | null>(null);
  const choose = (then: () => void): void => {
    setArrow(null);
    setAsking(null);
    then();
  };
  const open = (id: string): void => choose(() => onOpen(stepOf(content, id)));
  const remove = (id: string): void => {
    const beside = boxBeside(layout, id, 'left') ?? boxBeside(layout, id, 'right');
    edit(removeBox(content, id));
    if (beside === null) return;
    open(beside);
    focusBox(whole.current, beside);
  };
  const addPhaseHere = (): void => {
    const id = newId();
    edit(addPhase(id, 'New phase'));
    open(id);
  };
  const addHere = (event: MouseEvent): void => {
    if (isReadOnly || flow.current === null || (event.target as Element).closest('.react-flow__node-box, button') !== null) return;
    const at = flow.current.screenToFlowPosition({ x: event.clientX, y: event.clientY });
    const place = placeUnder(layout, { x: at.x - BOX.width / 2, y: at.y - BOX.height / 2 });
    if (place !== null) setAsking({ kind: 'new', at: place });
  };
  const byKeys = useMapKeys({ layout, editor, isReadOnly, open, remove, ask: setAsking, whole });
  return {
    layout,
    placed,
    arrowId,
    setArrow,
    asking,
    setAsking,
    open,
    close: () => choose(onClose),
    remove,
    addPhaseHere,
    addHere,
    byKeys,
  };
}

/** The boxes where they lie: as the layout says, or where they are being dragged to. */
function useDraggedNodes(layout: ProcessMapLayout, placed: readonly MapNode[]) {
  const [drag, setDrag] = useState<Drag>({ layout, places: new Map() });
  // A box that was let go lies where the layout says, as soon as there is a new one.
  const places = drag.layout === layout ? drag.places : NOWHERE;
  return {
    nodes: placed.map((node) => ({ ...node, position: places.get(node.id) ?? node.position })),
    move: (moved: readonly (readonly [string, XYPosition])[]): void => {
      if (moved.length > 0) setDrag({ layout, places: new Map([...places, ...moved]) });
    },
    letGo: (): void => setDrag({ layout, places: NOWHERE }),
  };
}

interface DrawnProps extends Pick<MapProps, 'editor' | 'isReadOnly'> {
  readonly map: ReturnType<typeof useProcessMap>;
  readonly onReady: (flow: Flow) => void;
}

/** The drawing itself: what is dragged, chosen and connected by pointer. */
function Drawn({ map, editor, isReadOnly, onReady }: DrawnProps) {
  const { content, edit } = editor;
  const { layout, open, close, setArrow } = map;
  const { nodes, move, letGo } = useDraggedNodes(layout, map.placed);
  const edges = useMemo(() => edgesOf(layout, map.arrowId), [layout, map.arrowId]);
  return (
    <ReactFlow<MapNode, ArrowEdge>
      {...LOOK}
      nodes={nodes}
      edges={edges}
      nodesDraggable={!isReadOnly}
      nodesConnectable={!isReadOnly}
      onInit={onReady}
      onNodesChange={(changes) =>
        move(
          changes.flatMap((change) =>
            change.type === 'position' && change.position !== undefined ? [[change.id, change.position] as const] : [],
          ),
        )
      }
      onEdgesChange={(changes) => {
        for (const change of changes) if (change.type === 'select' && change.selected) setArrow(change.id);
      }}
      onNodeClick={(_, node) => (node.type === 'box' ? open(node.id) : close())}
      onPaneClick={close}
      onNodeDragStop={(_, node) => {
        const place = placeUnder(layout, node.position);
        const moved = node.type === 'box' && place !== null ? moveStep(node.id, place) : null;
        if (moved === null || moved(content) === content) letGo();
        else edit(moved);
      }}
      onConnect={(connection: Connection) => edit(connect(connection.source, connection.target, { id: newId(), reason: 'changes' }))}
    >
      <Background color="transparent" />
      <MapEdges layout={layout} onOpen={open} onAddPhase={isReadOnly ? null : map.addPhaseHere} />
      <Controls showInteractive={false} position="bottom-right" />
    </ReactFlow>
  );
}

/** What is read out of a box and an arrow: the keys that work there. */
const KEY_WORDS = {
  'node.a11yDescription.default':
    'Arrow keys go from box to box. Enter goes to its fields, n asks what happens next, Alt with an arrow key moves it to another lane or phase, Delete removes it.',
  'edge.a11yDescription.default': 'Enter chooses the arrow, Delete removes it.',
};

/** How the drawing looks and how it is moved about. */
const LOOK = {
  nodeTypes: NODE_TYPES,
  edgeTypes: EDGE_TYPES,
  colorMode: 'light',
  defaultViewport: { x: 0, y: 0, zoom: 0.9 },
  panOnScroll: true,
  zoomOnDoubleClick: false,
  minZoom: 0.25,
  maxZoom: 1.6,
  deleteKeyCode: null,
  ariaLabelConfig: KEY_WORDS,
} as const;

interface MapKeys {
  readonly layout: ProcessMapLayout;
  readonly editor: TemplateEditor;
  readonly isReadOnly: boolean;
  readonly open: (id: string) => void;
  readonly remove: (id: string) => void;
  readonly ask: (asking: Asking | null) => void;
  readonly whole: RefObject<HTMLDivElement | null>;
}

/** The map by keys: from box to box, what is chosen moved, added to and taken out. */
function useMapKeys({ layout, editor, isReadOnly, open, remove, ask, whole }: MapKeys) {
  return (event: KeyboardEvent): void => {
    if (!(event.target instanceof Element) || event.target.closest('input, textarea, [role=listbox]') !== null) return;
    const [box, line] = [event.target.closest('.react-flow__node-box'), event.target.closest('.react-flow__edge')];
    const id = box?.getAttribute('data-id') ?? null;
    const done = (): void => {
      event.preventDefault();
      event.stopPropagation();
    };
    const isGone = event.key === 'Delete' || event.key === 'Backspace';
    if (line !== null && isGone && !isReadOnly) {
      const found = layout.arrows.find((candidate) => candidate.id === line.getAttribute('data-id'));
      if (found !== undefined) editor.edit(removeArrow(found));
      return done();
    }
    if (id === null) return;
    const direction = directionOf(event.key);
    if (direction !== null) {
      done();
      if (!event.altKey) {
        const next = boxBeside(layout, id, direction);
        if (next === null) return;
        open(next);
        return focusBox(whole.current, next);
      }
      const place = isReadOnly ? null : placeBeside(layout, id, direction);
      if (place !== null) editor.edit(moveStep(id, place));
      return;
    }
    if (event.key === 'Enter') {
      done();
      open(id);
      // The note follows what is open; its first field is there once that is drawn.
      requestAnimationFrame(() => whole.current?.querySelector<HTMLElement>('section:last-child input')?.focus());
    } else if (event.key === 'n' && !isReadOnly) {
      done();
      open(id);
      ask({ kind: 'next', of: stepOf(editor.content, id) });
    } else if (isGone && !isReadOnly) {
      done();
      remove(id);
    }
  };
}

/** Once what changed is drawn, the keys are on a box. */
function focusBox(whole: HTMLElement | null, id: string): void {
  requestAnimationFrame(() => whole?.querySelector<HTMLElement>(`.react-flow__node[data-id="${CSS.escape(id)}"]`)?.focus());
}

const wayOf = (content: TemplateContent, boxId: string): TemplateWay | undefined => content.ways.find((way) => endingId(way) === boxId);

/** The step a box stands for; of an ending, the one that leads to it. */
const stepOf = (content: TemplateContent, id: string): string => wayOf(content, id)?.fromId ?? id;

const removeBox = (content: TemplateContent, id: string): Edit => {
  const way = wayOf(content, id);
  return way === undefined ? removeTask(id) : removeWay(way.id);
};

interface Shown {
  readonly openPart: string | null;
  readonly isReadOnly: boolean;
}

function nodesOf(layout: ProcessMapLayout, { openPart, isReadOnly }: Shown): MapNode[] {
  const still = { draggable: false, selectable: false, connectable: false, deletable: false } as const;
  const lanes = layout.lanes.map((lane, index): LaneNode => ({
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
    data: { isOdd: index % 2 === 1 },
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

function edgesOf(layout: ProcessMapLayout, chosen: string | null): ArrowEdge[] {
  const titles = new Map(layout.boxes.map((box) => [box.id, box.title]));
  return layout.arrows.map((arrow) => {
    const isBack = arrow.kind === 'back';
    return {
      ...{ id: arrow.id, source: arrow.from, target: arrow.to, type: 'arrow', className: arrow.kind, label: arrow.label },
      selected: arrow.id === chosen,
      ...(isBack ? { sourceHandle: 'below', targetHandle: 'under' } : {}),
      style: { stroke: STROKE[arrow.kind], strokeWidth: 1.5, ...(arrow.kind === 'ending' ? { strokeDasharray: '4 3' } : {}) },
      markerEnd: { type: MarkerType.ArrowClosed, color: isBack ? 'var(--amber)' : 'var(--ink-2)', width: 16, height: 16 },
      data: { arrow },
      ariaLabel: `${titles.get(arrow.from) ?? ''} leads to ${titles.get(arrow.to) ?? ''}${arrow.label === '' ? '' : `, ${arrow.label}`}`,
    };
  });
}
