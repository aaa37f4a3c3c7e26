import { Graph, layout } from '@dagrejs/dagre';
import type { Flow, FlowNode } from '@vigilum/core/editing';

/** A box with its place; `x` and `y` are its middle. Lengths in px. */
export interface PlacedNode extends FlowNode {
  x: number;
  y: number;
  width: number;
  height: number;
  /** Asked again and again until it is so: drawn as a loop at its side. */
  waits: boolean;
}

export interface PlacedEdge {
  label: string;
  points: { x: number; y: number }[];
  labelAt: { x: number; y: number } | null;
}

export interface PlacedFlow {
  nodes: PlacedNode[];
  edges: PlacedEdge[];
  width: number;
  height: number;
}

/** Width of a letter of the mono face at 15 px, and what a box needs around its words. */
const LETTER = 10;
const HEIGHT = 40;
/** Room at the right of a box for the loop of a wait. */
export const LOOP = 62;

/** Lays the boxes of one part out from top to bottom. */
function layPart({ nodes, edges }: Flow): PlacedFlow {
  const graph = new Graph({ multigraph: true });
  graph.setGraph({ rankdir: 'TB', nodesep: 36, ranksep: 34, marginx: 16, marginy: 16 });
  graph.setDefaultEdgeLabel(() => ({}));
  const waiting = new Set(edges.filter(({ from, to }) => from === to).map(({ from }) => from));
  const onward = edges.filter(({ from, to }) => from !== to);
  const loop = (id: string) => (waiting.has(id) ? LOOP : 0);
  for (const node of nodes) {
    const room = node.kind === 'ask' ? 58 : 28;
    // The loop is balanced on the left, so that the ways in and out meet the middle of the box.
    const width = Math.max(70, node.text.length * LETTER + room) + 2 * loop(node.id);
    graph.setNode(node.id, { width, height: HEIGHT });
  }
  onward.forEach(({ from, to, label }, i) => {
    graph.setEdge(from, to, { label, width: label ? 34 : 0, height: label ? 20 : 0, labelpos: 'c' }, `e${i}`);
  });
  layout(graph);
  const size = graph.graph() as { width?: number; height?: number };
  return {
    nodes: nodes.map((node) => {
      const { x, y, width, height } = graph.node(node.id) as PlacedNode;
      return { ...node, x, y, width: width - 2 * loop(node.id), height, waits: waiting.has(node.id) };
    }),
    edges: onward.map(({ from, to, label }, i) => {
      const placed = graph.edge(from, to, `e${i}`) as {
        points: { x: number; y: number }[];
        x?: number;
        y?: number;
      };
      const labelAt =
        label && placed.x !== undefined && placed.y !== undefined ? { x: placed.x, y: placed.y } : null;
      return { label, points: placed.points, labelAt };
    }),
    width: size.width ?? 100,
    height: size.height ?? 100,
  };
}

/** Lays a flow diagram out: the main program, and below it each own step by itself. */
export function layFlow({ nodes, edges }: Flow): PlacedFlow {
  const all: PlacedFlow = { nodes: [], edges: [], width: 0, height: 0 };
  const parts = [...new Set(nodes.map((node) => node.task))].map((task) => {
    const own = nodes.filter((node) => node.task === task);
    const ids = new Set(own.map((node) => node.id));
    return layPart({ nodes: own, edges: edges.filter(({ from, to }) => ids.has(from) && ids.has(to)) });
  });
  const width = Math.max(...parts.map((part) => part.width));
  for (const part of parts) {
    const [dx, dy] = [(width - part.width) / 2, all.height];
    const shift = <T extends { x: number; y: number }>(at: T): T => ({ ...at, x: at.x + dx, y: at.y + dy });
    all.nodes.push(...part.nodes.map(shift));
    all.edges.push(
      ...part.edges.map(({ label, points, labelAt }) => ({
        label,
        points: points.map(shift),
        labelAt: labelAt && shift(labelAt),
      })),
    );
    all.height += part.height;
  }
  return { ...all, width };
}
