import { RotateCcw, RotateCw } from 'lucide-react';
import { useRef } from 'react';
import type { Course } from '@vigilum/core/course';
import type { Pose } from '@vigilum/core/motion';
import type { RobotBuild } from '@vigilum/core/sensing';
import { Button } from '../ui/Button.tsx';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { useHand } from './StandInHand.tsx';

/** While a finger drags, the robot follows in moves of this long. */
const FOLLOW_MS = 150;
const NUDGE_MM = 10;

/** The mat with the stand-in robot on it: drag the robot, or move it with the arrow keys. */
export function MatBoard({
  robotId,
  build,
  course,
  pose,
  setPose,
  watch,
  turns = true,
  className = '',
}: {
  robotId: number;
  build: RobotBuild;
  course: Course;
  pose: Pose | null;
  setPose: (pose: Pose) => void;
  /** The sensor that looks down, if there is one. */
  watch?: { aheadMm: number; rightMm: number };
  /** With buttons for a quarter turn. */
  turns?: boolean;
  className?: string;
}) {
  const hand = useHand(robotId);
  const box = useRef<HTMLDivElement>(null);
  const grip = useRef<{ dx: number; dy: number; sentAt: number } | null>(null);
  const start = course.starts[0];
  const at: Pose = pose ?? start ?? { xMm: course.widthMm / 2, yMm: course.heightMm / 2, bearingDeg: 0 };
  const sideways = course.heightMm > course.widthMm;

  const point = (event: React.PointerEvent): { xMm: number; yMm: number } | null => {
    const svg = box.current?.querySelector('svg');
    const matrix = svg?.getScreenCTM();
    if (!matrix) return null;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return sideways ? { xMm: p.y, yMm: p.x } : { xMm: p.x, yMm: course.heightMm - p.y };
  };
  const inside = (x: number, y: number) => ({
    xMm: Math.min(course.widthMm, Math.max(0, x)),
    yMm: Math.min(course.heightMm, Math.max(0, y)),
  });
  const move = (to: { xMm: number; yMm: number }) => {
    setPose({ ...at, ...to });
    void hand({
      put: 'drag',
      toXMm: Math.round(to.xMm),
      toYMm: Math.round(to.yMm),
      seconds: FOLLOW_MS / 1000,
    });
  };
  const turn = (deg: number) => {
    setPose({ ...at, bearingDeg: at.bearingDeg + deg });
    void hand({ put: 'turn', deg });
  };
  const arrows: Record<string, [number, number]> = sideways
    ? {
        ArrowRight: [0, NUDGE_MM],
        ArrowLeft: [0, -NUDGE_MM],
        ArrowUp: [-NUDGE_MM, 0],
        ArrowDown: [NUDGE_MM, 0],
      }
    : {
        ArrowUp: [0, NUDGE_MM],
        ArrowDown: [0, -NUDGE_MM],
        ArrowLeft: [-NUDGE_MM, 0],
        ArrowRight: [NUDGE_MM, 0],
      };
  return (
    <div className={`flex flex-col gap-1.5 ${className}`}>
      <div
        ref={box}
        tabIndex={0}
        role="application"
        aria-label="The stand-in robot on the mat. Drag it, or move it with the arrow keys."
        className="cursor-grab touch-none rounded-lg active:cursor-grabbing"
        onPointerDown={(event) => {
          const p = point(event);
          if (!p) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          grip.current = { dx: at.xMm - p.xMm, dy: at.yMm - p.yMm, sentAt: 0 };
        }}
        onPointerMove={(event) => {
          const held = grip.current;
          const p = held && point(event);
          if (!held || !p) return;
          const to = inside(p.xMm + held.dx, p.yMm + held.dy);
          if (event.timeStamp - held.sentAt < FOLLOW_MS) return setPose({ ...at, ...to });
          held.sentAt = event.timeStamp;
          move(to);
        }}
        onPointerUp={(event) => {
          const held = grip.current;
          const p = held && point(event);
          grip.current = null;
          if (held && p) move(inside(p.xMm + held.dx, p.yMm + held.dy));
        }}
        onPointerCancel={() => (grip.current = null)}
        onKeyDown={(event) => {
          const by = arrows[event.key];
          if (!by) return;
          event.preventDefault();
          event.stopPropagation();
          move(inside(at.xMm + by[0], at.yMm + by[1]));
        }}
      >
        <MatDrawing
          course={course}
          build={build}
          pose={at}
          {...(watch ? { watch: { ...watch, radiusMm: 6 } } : {})}
          className="w-full"
          label="The mat from above with the stand-in robot"
        />
      </div>
      {turns ? (
        <div className="flex flex-wrap gap-1.5">
          <Button icon={RotateCcw} onClick={() => turn(-90)}>
            turn left 90°
          </Button>
          <Button icon={RotateCw} onClick={() => turn(90)}>
            turn right 90°
          </Button>
        </div>
      ) : null}
    </div>
  );
}
