import { Box, Button, Typography } from '@mui/material';
import type { HosePieceWorkup, HoseWorkup, JobState, Workup } from '../api/generated/schema';
import { degrees, figure, length, sentence, useBench } from '../kit/bench';
import { Findings } from '../kit/Findings';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';

interface Props {
  state: JobState;
  workup: Workup;
  hose: HoseWorkup;
  drawing: Drawing;
}

/** How a hose is cut and made up: one length between its fittings, or moulded pieces in their order. */
export function HosePad({ state, workup, hose, drawing }: Props) {
  const { unit, selected } = useBench();
  return (
    <>
      <Typography variant='h1' component='h2'>
        {sentence(hose.called, unit)}
      </Typography>
      <Findings
        findings={workup.findings.filter((finding) => finding.step === 'join' || finding.step === 'cut')}
        selected={selected}
        onMend={(edit) => void drawing.keep(edit)}
      />
      {hose.length && (
        <Box sx={{ my: 1.25 }}>
          <Box sx={{ fontSize: 13, color: token.inkSoft }}>Cut to</Box>
          <Box sx={{ fontSize: 40, fontWeight: 700, lineHeight: 1.1, color: token.dye }}>
            {length(hose.length.cut, unit)}
          </Box>
          <Typography variant='body2' color='textSecondary'>
            {sentence(hose.length.words, unit)}.
          </Typography>
        </Box>
      )}
      <HoseParts workup={workup} hose={hose} />
      <Button variant='contained' sx={{ mt: 1.5 }} href={`/api/jobs/${state.id}/runs/${workup.run}/hose.csv`}>
        Hose, CSV
      </Button>
    </>
  );
}

/** The parts a hose is made up of, from A. */
export function HoseParts({ workup, hose }: { workup: Workup; hose: HoseWorkup }) {
  const unit = useBench((bench) => bench.unit);
  const fitting = (at: 0 | 1) => {
    const one = hose.fittings[at];
    return (
      one && (
        <Row
          name={`At ${at === 0 ? 'A' : 'B'}`}
          aside={`cut-off ${length(one.cut_off, unit)}${one.clock != null ? `, clock ${degrees(one.clock, 0)}` : ''}`}
        >
          <Box component='span' sx={{ fontSize: 15 }}>
            {one.called}
          </Box>
        </Row>
      )
    );
  };
  return (
    <Box component='section' aria-label='Made up of'>
      <Typography variant='h2' sx={{ mt: 1, mb: 0.5 }}>
        Made up of, from A
      </Typography>
      {fitting(0)}
      {hose.pieces.map((piece, index) => (
        <Piece key={piece.bend ?? `s${piece.straight}`} piece={piece} number={index + 1} workup={workup} />
      ))}
      {fitting(1)}
      {hose.clock_said && (
        <Row name='B turned' aside={hose.clock_words}>
          {hose.clock_said}
        </Row>
      )}
      {hose.inserts && (
        <Row
          name='Inserts'
          aside={`${length(hose.inserts.od, unit)} outside, ${length(hose.inserts.length, unit)} long`}
        >
          {hose.inserts.count}
        </Row>
      )}
      {hose.clamps > 0 && (
        <Row name='Clamps' aside='two at each insert, one at each mouth'>
          {hose.clamps}
        </Row>
      )}
      {hose.length && (
        <Row name='Bends to' aside={`on its middle; ${length(hose.bore, unit)} inside`}>
          {length(hose.least_radius, unit)}
        </Row>
      )}
    </Box>
  );
}

function Piece({ piece, number, workup }: { piece: HosePieceWorkup; number: number; workup: Workup }) {
  const { unit, select } = useBench();
  const { run } = workup;
  const pick = () => {
    if (piece.bend != null) select({ part: 'bend', run, bend: piece.bend });
    else if (piece.straight != null) select({ part: 'straight', run, straight: piece.straight });
  };
  const legs = piece.legs.map((leg) => figure(leg, unit)).join(' + ');
  return (
    <Row
      name={
        <Button size='small' onClick={pick} sx={{ minWidth: 0, px: 0.75 }}>
          Piece {number}
        </Button>
      }
      aside={
        piece.bend != null
          ? `${sentence(piece.called, unit)}; legs beyond its bend${piece.turned_said ? `; turned ${piece.turned_said} seen from A` : ''}`
          : 'straight'
      }
    >
      {legs} {unit}
    </Row>
  );
}
