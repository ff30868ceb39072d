import { Box, Button, ButtonBase, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import type { Edit, Finding, Severity } from '../api/generated/schema';
import { token } from '../theme';
import { isWhole, type Selected, same, samePart, sentence, useBench } from './bench';

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
  /** Whether all are open at once; else each is a line that opens on press. */
  open?: boolean;
}

/** What is wrong, the selected part first: a line each, which opens on press and turns the bay to it. */
export function Findings({ findings, selected, onMend, only, also, open }: Props) {
  const { sight, show, select } = useBench();
  const here = findings.filter((finding) => samePart(finding.part, selected) && !isWhole(selected));
  const rest = findings.filter((finding) => !here.includes(finding));
  const [first, then] = [only === 'rest' ? [] : here, only === 'here' ? [] : rest];
  if (first.length + then.length === 0) return null;
  const shown = ({ part, against }: Finding) =>
    sight !== undefined && samePart(part, sight.part) && same(against ?? undefined, sight.against);
  return (
    <Box
      component='section'
      aria-label={only === 'here' ? 'Findings here' : 'Findings'}
      sx={{ display: 'grid', gap: '3px', mb: 1.25 }}
    >
      {first.map((finding) => (
        <Card
          key={finding.words.mm}
          finding={finding}
          onMend={onMend}
          onShow={shown(finding) ? undefined : () => show(finding)}
          also={also?.(finding)}
        />
      ))}
      {then.map((finding) =>
        open || shown(finding) ? (
          <Card
            key={finding.words.mm}
            finding={finding}
            onMend={onMend}
            onClose={open ? undefined : () => select({ part: 'nothing' })}
            also={also?.(finding)}
          />
        ) : (
          <Line key={finding.words.mm} finding={finding} onOpen={() => show(finding)} />
        ),
      )}
    </Box>
  );
}

/** A finding as a line. */
function Line({ finding, onOpen }: { finding: Finding; onOpen: () => void }) {
  const unit = useBench((bench) => bench.unit);
  const { word, shape, edge, paper, ink } = look[finding.severity];
  const words = sentence(finding.words, unit);
  return (
    <ButtonBase
      aria-expanded={false}
      onClick={onOpen}
      title={words}
      sx={{
        display: 'block',
        width: '100%',
        textAlign: 'left',
        borderLeft: `4px solid ${edge}`,
        bgcolor: paper,
        px: 1.25,
        py: 0.4,
        fontSize: 14,
        lineHeight: 1.35,
        overflow: 'hidden',
        textOverflow: 'ellipsis',
        whiteSpace: 'nowrap',
      }}
    >
      <Box component='strong' sx={{ color: ink, mr: 0.75 }}>
        <span aria-hidden='true'>{shape}</span> {word}
      </Box>{' '}
      {words}
    </ButtonBase>
  );
}

interface CardProps {
  finding: Finding;
  onMend: (edit: Edit) => void;
  onShow?: (() => void) | undefined;
  onClose?: (() => void) | undefined;
  also?: ReactNode;
}

/** A finding open: the whole sentence and what can be done about it. */
function Card({ finding, onMend, onShow, onClose, also }: CardProps) {
  const unit = useBench((bench) => bench.unit);
  const { word, shape, edge, paper, ink } = look[finding.severity];
  const acts = finding.remedies.length > 0 || also;
  const press = onShow ?? onClose;
  const shown = press && (
    <Button
      variant='text'
      onClick={press}
      sx={{ ml: 'auto', ...(acts ? {} : { p: 0, minWidth: 0, lineHeight: 1.35 }) }}
    >
      {onShow ? 'Show it' : 'Close'}
    </Button>
  );
  return (
    <Box sx={{ borderLeft: `4px solid ${edge}`, bgcolor: paper, px: 1.25, py: 0.9 }}>
      <Typography variant='body2' sx={{ lineHeight: 1.35 }}>
        <Box component='strong' sx={{ color: ink, mr: 0.75 }}>
          <span aria-hidden='true'>{shape}</span> {word}
        </Box>
        {sentence(finding.words, unit)} {!acts && shown}
      </Typography>
      {acts && (
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
          {shown}
        </Box>
      )}
    </Box>
  );
}
