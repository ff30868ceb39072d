import { Box, Button, Typography } from '@mui/material';
import { author, whoText } from '../api/author';
import type { SignWorkup } from '../api/generated/schema';
import { token } from '../theme';

interface Props {
  sign: SignWorkup;
  revision: number;
  busy: boolean;
  onSign: () => void;
}

/** The signature, or what is wanting for it. */
export function SignOff({ sign, revision, busy, onSign }: Props) {
  const { wanting, who, changed } = sign;
  const holds = who != null && changed.length === 0;
  return (
    <Box
      component='section'
      aria-label='Signature'
      sx={{
        p: 1.25,
        mb: 1.5,
        bgcolor: holds ? token.strawPaper : token.sheet,
        border: `1px solid ${holds ? token.straw : token.hairline}`,
      }}
    >
      <Typography variant='h2' component='h3'>
        {holds ? 'It is done' : 'Sign it off'}
      </Typography>
      {who != null && (
        <Typography variant='body2'>
          Signed by {whoText(who)} as revision {sign.revision}
          {changed.length > 0 && (
            <strong style={{ color: token.tightText }}>
              {' '}
              ▲ void: since then {changed.join(' and ')} changed
            </strong>
          )}
          .
        </Typography>
      )}
      {!holds && wanting.length > 0 && (
        <Box component='ul' aria-label='What is wanting' sx={{ m: 0, pl: 2.25, fontSize: 14.5 }}>
          {wanting.map((one) => (
            <li key={one}>{one}.</li>
          ))}
        </Box>
      )}
      {!holds && wanting.length === 0 && (
        <Button variant='main' fullWidth disabled={busy} onClick={onSign} sx={{ mt: 1 }}>
          Sign it as {whoText(author)}, revision {revision}
        </Button>
      )}
    </Box>
  );
}
