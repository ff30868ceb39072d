import type { Field, InstrumentKind } from '../api/generated/schema';

/** The instrument whose figure a field takes. */
export const instrumentOf: Record<Field, InstrumentKind> = {
  tape: 'tape',
  offset: 'tape',
  girth: 'tape',
  heading: 'gauge',
  pitch: 'gauge',
  caliper: 'caliper',
  gap: 'feeler',
  step: 'depth',
  pressure: 'manometer',
};
