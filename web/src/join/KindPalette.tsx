import { Box, ButtonBase, Typography } from '@mui/material';
import { useState } from 'react';
import type { JointKind, Workup } from '../api/generated/schema';
import { sentence, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { jointNames } from '../measure/names';
import { placedAt } from '../rod/placedAt';
import { token } from '../theme';
import { JointSign } from './JointSign';

/** What a dragged kind of joint is carried as. */
export const CARRIED = 'application/x-nook-joint';

/** Puts a kind of joint along the pipe, its middle at a station of the tube, and selects it. */
export function useAddJoint(workup: Workup | undefined, drawing: Drawing) {
  const selectMade = useBench((bench) => bench.selectMade);
  return async (kind: JointKind, station: number) => {
    if (!workup) return;
    const made = await drawing.keep({
      step: 'join',
      edit: 'add_joint',
      run: workup.run,
      at: placedAt(workup, station),
      kind,
    });
    if (made) selectMade(made);
  };
}

/** Kinds of joint to put along the pipe: dragged onto the rod or the bay, or by a station that is typed. */
export function KindPalette({ workup, drawing }: { workup: Workup; drawing: Drawing }) {
  const unit = useBench((bench) => bench.unit);
  const [kind, setKind] = useState<JointKind>('coupler');
  const add = useAddJoint(workup, drawing);
  const offers = workup.kinds.filter((offer) => offer.along);
  const refused = offers.find((offer) => offer.kind === kind)?.refused;
  return (
    <Box component='section' aria-label='Put a joint along the pipe'>
      <Typography variant='h2'>Put a joint along the pipe</Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 0.75 }}>
        Drag one onto the rod or the pipe, or choose one and type how far along the tube from A.
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '4px' }}>
        {offers.map((offer) => (
          <ButtonBase
            key={offer.kind}
            draggable
            aria-pressed={kind === offer.kind}
            title={offer.refused ? sentence(offer.refused, unit) : undefined}
            onClick={() => setKind(offer.kind)}
            onDragStart={(event) => {
              setKind(offer.kind);
              event.dataTransfer.setData(CARRIED, offer.kind);
              event.dataTransfer.effectAllowed = 'copy';
            }}
            sx={{
              justifyContent: 'flex-start',
              gap: 1,
              px: 1,
              py: 0.5,
              cursor: 'grab',
              fontSize: 13.5,
              textAlign: 'left',
              bgcolor: kind === offer.kind ? token.strawPaper : token.sheet,
              border: `1px solid ${kind === offer.kind ? token.straw : token.hairline}`,
              color: offer.refused ? token.inkSoft : token.ink,
            }}
          >
            <JointSign kind={offer.kind} />
            <span>
              {jointNames[offer.kind]}
              {offer.refused ? ' ■' : ''}
            </span>
          </ButtonBase>
        ))}
      </Box>
      {refused && (
        <Typography variant='body2' sx={{ mt: 0.75, color: token.fouls }}>
          {sentence(refused, unit).replace('The run: ', 'Not on this pipe: ')}
        </Typography>
      )}
      <Row name='At' aside='along the tube from A; enter puts it there'>
        <LengthField
          label={`Station for the ${jointNames[kind].toLowerCase()}`}
          hideLabel
          value={undefined}
          onKeep={(mm) => add(kind, mm)}
        />
      </Row>
    </Box>
  );
}
