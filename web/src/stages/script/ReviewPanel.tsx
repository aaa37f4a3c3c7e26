import type { ReactNode } from 'react';
import { countOf } from '@vigilum/core/quantity';
import type { Finding } from '@vigilum/core/script';
import { Button } from '../../ui/Button.tsx';
import { FindingCard } from '../../ui/Finding.tsx';
import { Panel } from '../../ui/Panel.tsx';
import type { Tried } from './useTriedMends.ts';

const tone = { fault: 'fault', risk: 'risk', note: 'now' } as const;

/** What the review found, each with where, what, why and what mends it. */
export function ReviewPanel({
  findings,
  tried,
  mend,
  goTo,
  first,
  footer,
  children,
}: {
  findings: readonly Finding[];
  /** What became of a finding's mend when it was tried. */
  tried: (finding: Finding) => Tried;
  mend: (finding: Finding) => void;
  goTo: (line: number) => void;
  /** Said before all findings: a clash, a failed save. */
  first: ReactNode;
  footer: ReactNode;
  children: ReactNode;
}) {
  return (
    <Panel
      title="Review"
      aside={findings.length === 0 ? 'nothing to mend' : `${countOf(findings.length, 'thing')} to look at`}
      footer={footer}
    >
      {first}
      <div className="flex flex-col gap-4">
        {findings.length === 0 ? (
          <FindingCard
            tone="done"
            says="Nothing speaks against running it."
            more="The review knows this robot’s wiring, its readings, its threshold and the course."
          />
        ) : (
          findings.map((finding) => (
            <FindingCard
              key={`${finding.rule}:${finding.line}:${finding.column}`}
              tone={tone[finding.grade]}
              where={`line ${finding.line}${finding.grade === 'fault' && finding.column > 1 ? `, column ${finding.column}` : ''}`}
              says={finding.says}
              more={[finding.why, finding.mend].filter(Boolean).join(' ')}
            >
              {finding.fix && tried(finding) === 'helps' ? (
                <Button main onClick={() => mend(finding)}>
                  {finding.fix.label}
                </Button>
              ) : (
                <button
                  type="button"
                  className="min-h-11 font-semibold text-sea underline"
                  onClick={() => goTo(finding.line)}
                >
                  Go to line {finding.line}
                  {finding.fix && tried(finding) === 'trying' ? (
                    <span className="font-normal text-ink-2"> · a mend is being tried</span>
                  ) : null}
                </button>
              )}
            </FindingCard>
          ))
        )}
      </div>
      <div className="mt-auto">{children}</div>
    </Panel>
  );
}
