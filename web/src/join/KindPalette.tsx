import { Box, ButtonBase, Typography } from '@mui/material';
import { type ReactNode, useState } from 'react';
import type { Workup } from '../api/generated/schema';
import { sentence, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { branchNames, jointNames, options, supportNames } from '../measure/names';
import { token } from '../theme';
import { BranchSign } from './BranchSign';
import { type Along, CARRIED, useAddAlong } from './carried';
import { JointSign } from './JointSign';
import { SupportSign } from './SupportSign';

/** Kinds of joint and support to put along the pipe, and of what is let into it: dragged onto the rod or the bay, or by a station that is typed. */
export function KindPalette({ workup, drawing }: { workup: Workup; drawing: Drawing }) {
  const unit = useBench((bench) => bench.unit);
  const [along, setAlong] = useState<Along>({ what: 'joint', kind: 'coupler' });
  const add = useAddAlong(workup, drawing);
  const offers = workup.kinds.filter((offer) => offer.along);
  const chosen = (one: Along) => one.what === along.what && one.kind === along.kind;
  const refused =
    along.what === 'joint' ? offers.find((offer) => offer.kind === along.kind)?.refused : undefined;
  const name = nameOf(along);
  return (
    <Box component='section' aria-label='Put one along the pipe'>
      <Typography variant='h2'>Put one along the pipe</Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 0.75 }}>
        Drag one onto the rod or the pipe, or choose one and type how far along the tube from A.
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '4px' }}>
        {offers.map(({ kind, refused: why }) => (
          <Tile
            key={kind}
            along={{ what: 'joint', kind }}
            on={chosen({ what: 'joint', kind })}
            title={why ? sentence(why, unit) : undefined}
            onChoose={setAlong}
            sign={<JointSign kind={kind} />}
          >
            {jointNames[kind]}
            {why ? ' ■' : ''}
          </Tile>
        ))}
        {options(supportNames).map(([kind, text]) => (
          <Tile
            key={kind}
            along={{ what: 'support', kind }}
            on={chosen({ what: 'support', kind })}
            onChoose={setAlong}
            sign={<SupportSign kind={kind} />}
          >
            {text}
          </Tile>
        ))}
        {options(branchNames).map(([kind, text]) => (
          <Tile
            key={kind}
            along={{ what: 'branch', kind }}
            on={chosen({ what: 'branch', kind })}
            onChoose={setAlong}
            sign={<BranchSign kind={kind} />}
          >
            {text}
          </Tile>
        ))}
      </Box>
      {refused && (
        <Typography variant='body2' sx={{ mt: 0.75, color: token.fouls }}>
          {sentence(refused, unit).replace('The run: ', 'Not on this pipe: ')}
        </Typography>
      )}
      <Row name='At' aside='along the tube from A; enter puts it there'>
        <LengthField
          label={`Station for the ${name.toLowerCase()}`}
          hideLabel
          value={undefined}
          onKeep={(mm) => add(along, mm)}
        />
      </Row>
    </Box>
  );
}

function nameOf(along: Along): string {
  switch (along.what) {
    case 'joint':
      return jointNames[along.kind];
    case 'support':
      return supportNames[along.kind];
    case 'branch':
      return branchNames[along.kind];
  }
}

interface TileProps {
  along: Along;
  on: boolean;
  title?: string | undefined;
  onChoose: (along: Along) => void;
  sign: ReactNode;
  children: ReactNode;
}

function Tile({ along, on, title, onChoose, sign, children }: TileProps) {
  return (
    <ButtonBase
      draggable
      aria-pressed={on}
      title={title}
      onClick={() => onChoose(along)}
      onDragStart={(event) => {
        onChoose(along);
        event.dataTransfer.setData(CARRIED, JSON.stringify(along));
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
        bgcolor: on ? token.strawPaper : token.sheet,
        border: `1px solid ${on ? token.straw : token.hairline}`,
        color: title ? token.inkSoft : token.ink,
      }}
    >
      {sign}
      <span>{children}</span>
    </ButtonBase>
  );
}
