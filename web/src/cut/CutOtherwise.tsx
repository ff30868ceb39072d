import { Box, Button } from '@mui/material';
import type { Done, Finding, Workup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import { Findings } from '../kit/Findings';

/** Pieces that are cut and that the pipe now wants otherwise: sawn anew once the old one is set aside. */
export function CutOtherwise({ workup, onDone }: { workup: Workup; onDone: (done: Done) => void }) {
  const selected = useBench((bench) => bench.selected);
  const findings = workup.findings.filter((finding) => finding.kind === 'cut_otherwise');
  const setAside = ({ part }: Finding) =>
    part.part === 'piece' && (
      <Button
        variant='outlined'
        onClick={() => onDone({ deed: 'not_cut', run: part.run, piece: part.piece })}
      >
        Set it aside
      </Button>
    );
  if (findings.length === 0) return null;
  return (
    <Box sx={{ mb: 1 }}>
      <Findings open findings={findings} selected={selected} onMend={() => {}} also={setAside} />
    </Box>
  );
}
