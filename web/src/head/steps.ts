/** The steps of the work that this version does, in the order the work goes. */
export const steps = ['measure', 'route', 'join', 'cut'] as const;
export type Step = (typeof steps)[number];

export const stepNames: Record<Step, string> = {
  measure: 'Measure',
  route: 'Route',
  join: 'Join',
  cut: 'Cut',
};

export function isStep(text: string | undefined): text is Step {
  return steps.includes(text as Step);
}
