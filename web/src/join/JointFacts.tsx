import { Box, Button } from '@mui/material';
import type { JointChange, JointFigures, JointKind, Workup } from '../api/generated/schema';
import { degrees, sentence, useBench } from '../kit/bench';
import { Row } from '../kit/Row';
import { token } from '../theme';
import { PartChoice } from './PartChoice';
import { UseBar } from './UseBar';

interface Props {
  workup: Workup;
  kind: JointKind;
  figures: JointFigures;
  /** What it is called where its fields are named. */
  name: string;
  onChange: (to: JointChange) => unknown;
}

/** What a joint is made with, what it gives and what it takes of that. */
export function JointFacts({ workup, kind, figures, name, onChange }: Props) {
  const { unit, pose, setPose } = useBench();
  const { give, takes, part } = figures;
  const gives = give.angle > 0 || give.offset > 0 || give.axial > 0;
  const worst = takes && {
    roll: takes.roll,
    shift: takes.shift,
    sections: takes.sections,
    of: name,
  };
  const shown = pose !== undefined && pose.of === name;
  return (
    <>
      <PartChoice workup={workup} kind={kind} part={part ?? undefined} name={name} onChange={onChange} />
      <Row name='Gives' aside={gives ? 'bent, aside, along' : 'the two sides are one'}>
        {gives ? `${degrees(give.angle)} · ${give.offset} · ${give.axial} mm` : 'nothing'}
      </Row>
      {takes && (
        <Box sx={{ borderTop: `1px solid ${token.hairline}`, py: 0.75 }}>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Box sx={{ width: 96, fontSize: 14, flex: 'none' }}>Takes</Box>
            <UseBar share={takes.share} />
          </Box>
          <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', mt: 0.5 }}>
            <Box sx={{ fontSize: 13, color: token.inkSoft }}>{sentence(takes.said, unit)}</Box>
            <Button
              size='small'
              variant='outlined'
              sx={{ whiteSpace: 'nowrap', flex: 'none', ml: 1 }}
              aria-pressed={shown}
              onClick={() => setPose(shown ? undefined : (worst ?? undefined))}
            >
              {shown ? 'Back to rest' : 'Show it'}
            </Button>
          </Box>
        </Box>
      )}
    </>
  );
}
