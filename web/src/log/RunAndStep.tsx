import type { RunSpent, WorkStep } from '../api/generated/schema';
import { stepNames } from '../head/steps';
import { Choice } from '../kit/Choice';

interface Props {
  runs: readonly RunSpent[];
  run: number;
  step: WorkStep;
  onRun: (run: number) => void;
  onStep: (step: WorkStep) => void;
}

/** Which run, and which step of it. */
export function RunAndStep({ runs, run, step, onRun, onStep }: Props) {
  return (
    <>
      <Choice
        label='Run'
        value={String(run)}
        options={runs.map((one) => [String(one.run), one.name] as const)}
        onChange={(chosen) => onRun(Number(chosen))}
        width='100%'
      />
      <Choice
        label='Step'
        value={step}
        options={Object.entries(stepNames) as [WorkStep, string][]}
        onChange={onStep}
        width='100%'
      />
    </>
  );
}
