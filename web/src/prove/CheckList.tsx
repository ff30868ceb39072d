import { Box, Button, ButtonBase, Typography } from '@mui/material';
import { useState } from 'react';
import { whoText } from '../api/author';
import type { CheckDone, CheckWhen, CheckWorkup } from '../api/generated/schema';
import { PlainField } from '../kit/PlainField';
import { token } from '../theme';

const whens: Record<CheckWhen, string> = {
  off_the_car: 'Off the car',
  fitted: 'Fitted, before it runs',
  after_heat: 'After the first heat, cold again',
};

interface Props {
  checks: readonly CheckWorkup[];
  busy: boolean;
  onAnswer: (answer: CheckDone) => void;
  onBack: (check: CheckWorkup) => void;
  onSelect: (check: CheckWorkup) => void;
}

/** What is checked, made from what the run has. */
export function CheckList({ checks, busy, onAnswer, onBack, onSelect }: Props) {
  return (Object.keys(whens) as CheckWhen[]).map((when) => {
    const these = checks.filter((check) => check.when === when);
    if (these.length === 0) return null;
    const done = these.filter((check) => check.good === true).length;
    return (
      <Box component='section' key={when} aria-label={whens[when]} sx={{ mb: 1.25 }}>
        <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
          <Typography variant='h2' component='h3'>
            {whens[when]}
          </Typography>
          <Typography variant='body2' color='textSecondary'>
            {done} of {these.length}
          </Typography>
        </Box>
        <Box component='ul' sx={{ m: 0, p: 0, listStyle: 'none' }}>
          {these.map((check) => (
            <Check
              key={JSON.stringify(check.item)}
              check={check}
              busy={busy}
              onAnswer={onAnswer}
              onBack={() => onBack(check)}
              onSelect={() => onSelect(check)}
            />
          ))}
        </Box>
      </Box>
    );
  });
}

interface CheckProps {
  check: CheckWorkup;
  busy: boolean;
  onAnswer: (answer: CheckDone) => void;
  onBack: () => void;
  onSelect: () => void;
}

function Check({ check, busy, onAnswer, onBack, onSelect }: CheckProps) {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const read = text.trim() === '' ? undefined : Number(text.replace(',', '.'));
  const sound = read === undefined || (Number.isFinite(read) && read >= 0);
  const answer = (good: boolean) => {
    const reading = read === undefined || !check.reads ? {} : { reading: read };
    onAnswer({ item: check.item, of: check.of, good, ...reading });
  };
  const { good } = check;
  return (
    <Box component='li' sx={{ borderTop: `1px solid ${token.hairline}`, py: 0.5 }}>
      <ButtonBase
        onClick={onSelect}
        title='Show it in the bay and on the rod'
        sx={{
          font: 'inherit',
          fontSize: 14.5,
          textAlign: 'left',
          display: 'block',
          width: '100%',
          lineHeight: 1.35,
        }}
      >
        {good === true && <strong>✓ </strong>}
        {good === false && <strong style={{ color: token.fouls }}>■ Not right: </strong>}
        {check.void && <strong style={{ color: token.tightText }}>▲ Changed since: </strong>}
        {check.words}
        {check.reading != null && ` (${check.reading} ${check.reads ?? ''})`}
        {check.who != null && (
          <Box component='span' sx={{ color: token.inkSoft }}>
            {' '}
            · {whoText(check.who)}
          </Box>
        )}
      </ButtonBase>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start', mt: 0.5 }}>
        {good == null ? (
          <>
            {check.reads && open && (
              <Box sx={{ width: 130, mt: 0.75 }}>
                <PlainField
                  label={`The maker’s, ${check.reads}`}
                  value={text}
                  onChange={setText}
                  problem={sound ? undefined : 'a number'}
                />
              </Box>
            )}
            <Button
              size='small'
              variant='outlined'
              disabled={busy || !sound}
              aria-label={`It is so: ${check.words}`}
              onClick={() => answer(true)}
            >
              It is so
            </Button>
            <Button
              size='small'
              variant='text'
              disabled={busy || !sound}
              aria-label={`Not so: ${check.words}`}
              onClick={() => answer(false)}
            >
              Not so
            </Button>
            {check.reads && !open && (
              <Button size='small' variant='text' onClick={() => setOpen(true)}>
                With {check.reads}
              </Button>
            )}
          </>
        ) : (
          <Button
            size='small'
            variant='text'
            disabled={busy}
            aria-label={`Ask again: ${check.words}`}
            onClick={onBack}
          >
            Ask again
          </Button>
        )}
      </Box>
    </Box>
  );
}
