import type { WorkStep } from '../api/generated/schema';

/** The steps of the work, in the order it goes. */
export const allSteps: readonly WorkStep[] = ['measure', 'route', 'join', 'cut', 'fit', 'weld', 'prove'];

/** Those that have a screen: all of them. */
export const steps = ['measure', 'route', 'join', 'cut', 'fit', 'weld', 'prove'] as const;
export type Step = (typeof steps)[number];

export const stepNames: Record<WorkStep, string> = {
  measure: 'Measure',
  route: 'Route',
  join: 'Join',
  cut: 'Cut',
  fit: 'Fit',
  weld: 'Weld',
  prove: 'Prove',
};

export function isStep(text: string | undefined): text is Step {
  return steps.includes(text as Step);
}

/** Addresses within a job. */
export const rackAt = (job: number) => `/jobs/${job}`;
export const bayAt = (job: number) => `/jobs/${job}/bay`;
export const stockAt = (job: number) => `/jobs/${job}/stock`;
export const logAt = (job: number) => `/jobs/${job}/log`;
export const cardsAt = (job: number, run: number) => `/jobs/${job}/runs/${run}/cards`;
export const stickCardsAt = (job: number, stick: number) => `/jobs/${job}/stock/${stick}/cards`;
export const runAt = (job: number, run: number, step: Step) => `/jobs/${job}/runs/${run}/${step}`;
