import { Box } from '@mui/material';
import type { StepStanding, StepState } from '../api/generated/schema';
import { allSteps, stepNames } from '../head/steps';
import { headingFont, token } from '../theme';

export const stateNames: Record<StepState, string> = {
  nothing: 'nothing yet',
  begun: 'begun',
  wrong: 'cannot be',
  tight: 'tight',
  done: 'done',
};

const WIDE = 22;
const HIGH = 11;

/** How each step of a run stands, in the order the work goes: by colour and by shape. */
export function StepBar({ steps }: { steps: readonly StepStanding[] }) {
  const said = steps.map(({ step, state }) => `${stepNames[step]} ${stateNames[state]}`).join(', ');
  return (
    <svg
      width={steps.length * (WIDE + 3)}
      height={HIGH}
      role='img'
      aria-label={said}
      style={{ flexShrink: 0 }}
    >
      {steps.map(({ step, state }, index) => (
        <g key={step} transform={`translate(${index * (WIDE + 3)} 0)`}>
          <title>{`${stepNames[step]}: ${stateNames[state]}`}</title>
          <Segment state={state} />
        </g>
      ))}
    </svg>
  );
}

function Segment({ state }: { state: StepState }) {
  const [x, y] = [WIDE / 2, HIGH / 2];
  switch (state) {
    case 'nothing':
      return (
        <rect x={0.5} y={0.5} width={WIDE - 1} height={HIGH - 1} fill={token.sheet} stroke={token.clear} />
      );
    case 'begun':
      return (
        <>
          <rect x={0.5} y={0.5} width={WIDE - 1} height={HIGH - 1} fill={token.sheet} stroke={token.dye} />
          <rect width={WIDE / 2} height={HIGH} fill={token.dye} />
        </>
      );
    case 'done':
      return <rect width={WIDE} height={HIGH} fill={token.dye} />;
    case 'tight':
      return (
        <>
          <rect width={WIDE} height={HIGH} fill={token.straw} />
          <path d={`M${x} ${y - 3.5}l4 7h-8z`} fill={token.ink} />
        </>
      );
    case 'wrong':
      return (
        <>
          <rect width={WIDE} height={HIGH} fill={token.fouls} />
          <rect x={x - 2.75} y={y - 2.75} width={5.5} height={5.5} fill={token.sheet} />
        </>
      );
  }
}

/** First letters of the steps, over the bars. */
export function StepHeads() {
  return (
    <Box
      aria-hidden='true'
      sx={{ display: 'flex', fontFamily: headingFont, fontSize: 13, color: token.inkSoft }}
    >
      {allSteps.map((step) => (
        <Box key={step} title={stepNames[step]} sx={{ width: WIDE + 3, pr: '3px', textAlign: 'center' }}>
          {stepNames[step][0]}
        </Box>
      ))}
    </Box>
  );
}
