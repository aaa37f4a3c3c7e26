import { BookOpen } from 'lucide-react';
import { useState } from 'react';
import { stepFacts, type LessonStep } from '@vigilum/core/lesson';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { useKey } from '../ui/useKey.ts';
import { StepText } from './StepText.tsx';

/** What a working step asks for, one press away. */
export function WhatToDo({ step }: { step: LessonStep }) {
  const [open, setOpen] = useState(false);
  useKey('w', () => setOpen(true));
  if (!step.text && !step.expects && step.hints.length === 0) return null;
  return (
    <>
      <Button icon={BookOpen} title="What this step asks for (W)" onClick={() => setOpen(true)}>
        What to do
      </Button>
      {open ? (
        <Dialog
          title={step.title || stepFacts[step.kind].word}
          width="w-[44rem]"
          close={() => setOpen(false)}
        >
          <StepText step={step} headed={false} />
        </Dialog>
      ) : null}
    </>
  );
}
