import type { Program, Step } from '../script/index.ts';
import { layLine } from '../script/index.ts';

/** A box of a flow diagram. `line` is 0 for a start or an end. */
export interface FlowNode {
  id: string;
  kind: 'start' | 'end' | 'step' | 'ask';
  text: string;
  line: number;
  /** The part that it belongs to: an own step, or after those what is done beside the main program; null for the main program. */
  task: number | null;
}

export interface FlowEdge {
  from: string;
  to: string;
  /** “yes” or “no” where it leaves a question. */
  label: '' | 'yes' | 'no';
}

export interface Flow {
  nodes: FlowNode[];
  edges: FlowEdge[];
}

/** What is done beside the main program, as it is written. */
const watcherName = ({ watchers, source }: Program, i: number): string =>
  layLine(source[watchers[i]!.at.line - 1] ?? '', 1).code;

class Drawer {
  readonly nodes = new Map<string, FlowNode>();
  readonly edges: FlowEdge[] = [];
  private readonly program: Program;
  private task: number | null = null;
  private end = 'done';
  private own = false;

  constructor(program: Program) {
    this.program = program;
  }

  /** Draws the main program, or an own step. Its boxes are not called “end”, a word that Mermaid keeps for itself. */
  part(
    steps: readonly Step[],
    task: number | null,
    name: string,
    last = task === null ? 'end' : 'go on',
  ): void {
    this.task = task;
    this.own = task !== null && task < this.program.tasks.length;
    const at = task === null ? '' : `task${task + 1}_`;
    this.end = `${at}done`;
    this.put(`${at}begin`, 'start', name, 0);
    this.put(this.end, 'end', last, 0);
    this.edge(`${at}begin`, this.chain(steps, this.end, this.end));
  }

  private put(id: string, kind: FlowNode['kind'], text: string, line: number): string {
    this.nodes.set(id, { id, kind, text, line, task: this.task });
    return id;
  }

  private edge(from: string, to: string, label: FlowEdge['label'] = ''): void {
    this.edges.push({ from, to, label });
  }

  private words(line: number): string {
    return layLine(this.program.source[line - 1] ?? '', line).code;
  }

  /** Draws steps from the last to the first, so that each knows where it leads; gives the box that comes first. */
  private chain(steps: readonly Step[], next: string, leave: string): string {
    return steps.reduceRight((after, step) => this.step(step, after, leave), next);
  }

  private step(step: Step, next: string, leave: string): string {
    const { line } = step.at;
    const id = `line${line}`;
    switch (step.kind) {
      case 'leave':
        return leave;
      case 'give':
        if (!this.own) return this.end;
        this.put(id, 'step', this.words(line), line);
        this.edge(id, this.end);
        return id;
      case 'finish':
        // In an own step the way to the end of the program leads out of its picture: there it has a box.
        if (this.task === null) return 'done';
        return this.put(id, 'end', 'finish', line);
      case 'repeat': {
        const asks = step.how !== 'forever';
        this.put(id, asks ? 'ask' : 'step', this.words(line), line);
        const body = this.chain(step.body, id, next);
        // “until” goes on when its test holds; every other repeat goes round then.
        const round = step.how === 'until' ? 'no' : 'yes';
        this.edge(id, body, asks ? round : '');
        if (asks) this.edge(id, next, round === 'yes' ? 'no' : 'yes');
        return id;
      }
      case 'if':
        return step.arms.reduceRight((otherwise, arm) => {
          const body = this.chain(arm.body, next, leave);
          if (!arm.test) return body;
          const ask = this.put(`line${arm.line}`, 'ask', this.words(arm.line), arm.line);
          this.edge(ask, body, 'yes');
          this.edge(ask, otherwise, 'no');
          return ask;
        }, next);
      case 'waitUntil':
        this.put(id, 'ask', this.words(line), line);
        this.edge(id, next, 'yes');
        this.edge(id, id, 'no');
        return id;
      default:
        this.put(id, 'step', this.words(line), line);
        this.edge(id, next);
        return id;
    }
  }
}

/** The script as a flow diagram: boxes in reading order, own steps beside the main program. */
export function flowOf(program: Program): Flow {
  const drawer = new Drawer(program);
  drawer.part(program.steps, null, 'start');
  program.tasks.forEach((task, i) => {
    if (task.name !== '') drawer.part(task.body, i, task.name);
  });
  program.watchers.forEach(({ body }, i) => {
    drawer.part(body, program.tasks.length + i, watcherName(program, i), 'watch again');
  });
  const rank = ({ kind, line, task }: FlowNode) =>
    (task === null ? 0 : 1e6 * (task + 1)) +
    (kind === 'start' ? 0 : kind === 'end' && line === 0 ? 1e5 : line);
  const nodes = [...drawer.nodes.values()].sort((a, b) => rank(a) - rank(b));
  const place = new Map(nodes.map((node, i) => [node.id, i]));
  const edges = drawer.edges.sort(
    (a, b) => place.get(a.from)! - place.get(b.from)! || (a.label < b.label ? 1 : -1),
  );
  return { nodes, edges };
}

const quoted = (text: string) =>
  `"${text.replaceAll('#', '#35;').replaceAll('"', '#quot;').replaceAll('<', '#lt;').replaceAll('>', '#gt;')}"`;

/** The flow diagram as Mermaid text. */
export function mermaidOf(program: Program): string {
  const { nodes, edges } = flowOf(program);
  const shape = ({ id, kind, text }: FlowNode) =>
    kind === 'ask'
      ? `${id}{${quoted(text)}}`
      : kind === 'step'
        ? `${id}[${quoted(text)}]`
        : `${id}([${quoted(text)}])`;
  const lines = ['flowchart TD'];
  const tasks = [...new Set(nodes.map((node) => node.task))];
  for (const task of tasks) {
    const own = nodes.filter((node) => node.task === task).map((node) => `  ${shape(node)}`);
    if (task === null) lines.push(...own);
    else
      lines.push(
        `  subgraph task${task + 1}[${quoted(program.tasks[task]?.name ?? watcherName(program, task - program.tasks.length))}]`,
        ...own.map((l) => `  ${l}`),
        '  end',
      );
  }
  for (const { from, to, label } of edges) lines.push(`  ${from} -->${label && `|${label}|`} ${to}`);
  return `${lines.join('\n')}\n`;
}
