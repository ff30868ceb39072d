import { Box, Button, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import type { Edit, Finding, Severity } from '../api/generated/schema';
import { token } from '../theme';
import { type Selected, samePart, sentence, useBench } from './bench';

const look: Record<Severity, { word: string; shape: string; edge: string; paper: string; ink: string }> = {
  error: { word: 'Cannot be', shape: '■', edge: token.fouls, paper: token.foulsPaper, ink: token.fouls },
  warning: { word: 'Tight', shape: '▲', edge: token.straw, paper: token.tightPaper, ink: token.tightText },
  info: { word: 'Note', shape: '●', edge: token.noteEdge, paper: token.sheet, ink: token.inkSoft },
};

export function severityLook(severity: Severity) {
  return look[severity];
}

interface Props {
  findings: Finding[];
  selected: Selected;
  onMend: (edit: Edit) => void;
  /** Only those of the selected part, or only the others. */
  only?: 'here' | 'rest';
  /** What else can be done about one. */
  also?: (finding: Finding) => ReactNode;
}

/** What is wrong, the selected part first, each with the edits that mend it. */
export function Findings({ findings, selected, onMend, only, also }: Props) {
  const select = useBench((bench) => bench.select);
  const here = findings.filter((finding) => samePart(finding.part, selected));
  const rest = findings.filter((finding) => !here.includes(finding));
  const [first, then] = [only === 'rest' ? [] : here, only === 'here' ? [] : rest];
  if (first.length + then.length === 0) return null;
  return (
    <Box
      component='section'
      aria-label={only === 'here' ? 'Findings here' : 'Findings'}
      sx={{ display: 'grid', gap: 0.75, mb: only === 'here' ? 1.25 : 0 }}
    >
      {first.map((finding) => (
        <Card key={finding.words.mm} finding={finding} onMend={onMend} also={also?.(finding)} />
      ))}
      {then.map((finding) => (
        <Card
          key={finding.words.mm}
          finding={finding}
          onMend={onMend}
          onShow={() => select(finding.part)}
          also={also?.(finding)}
        />
      ))}
    </Box>
  );
}

function Card({
  finding,
  onMend,
  onShow,
  also,
}: {
  finding: Finding;
  onMend: (edit: Edit) => void;
  onShow?: () => void;
  also?: ReactNode;
}) {
  const unit = useBench((bench) => bench.unit);
  const { word, shape, edge, paper, ink } = look[finding.severity];
  return (
    <Box sx={{ borderLeft: `4px solid ${edge}`, bgcolor: paper, px: 1.25, py: 0.9 }}>
      <Typography variant='body2' sx={{ lineHeight: 1.35 }}>
        <Box component='strong' sx={{ color: ink, mr: 0.75 }}>
          <span aria-hidden='true'>{shape}</span> {word}
        </Box>
        {sentence(finding.words, unit)}
      </Typography>
      {(finding.remedies.length > 0 || onShow || also) && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.75, mt: 0.75 }}>
          {finding.remedies.map((remedy, index) => (
            <Button
              key={remedy.label.mm}
              variant={index === 0 ? 'contained' : 'outlined'}
              onClick={() => onMend(remedy.edit)}
            >
              {sentence(remedy.label, unit)}
            </Button>
          ))}
          {also}
          {onShow && finding.part.part !== 'run' && (
            <Button variant='text' onClick={onShow} sx={{ ml: 'auto' }}>
              Show it
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}
