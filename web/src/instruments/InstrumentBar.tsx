import { Box, Button, Typography } from '@mui/material';
import { answered, server } from '../api/client';
import type { InstrumentKind, InstrumentStatus } from '../api/generated/schema';
import { token } from '../theme';
import { useInstruments } from './useInstrument';

export const names: Record<InstrumentKind, string> = {
  tape: 'Tape',
  gauge: 'Angle gauge',
  caliper: 'Caliper',
  feeler: 'Feeler',
  depth: 'Depth gauge',
  manometer: 'Pressure gauge',
};

interface Props {
  /** Which kinds are used here. */
  only: readonly InstrumentKind[];
  /** The instrument that the field with the focus takes. */
  wanted: InstrumentKind | undefined;
  /** What a stand-in would read if it were perfect; nothing where that cannot be told. */
  aim: () => Promise<number[] | undefined>;
}

/** Whether the instruments answer, and a button for stand-ins, which have none of their own. */
export function InstrumentBar({ only, wanted, aim }: Props) {
  const instruments = useInstruments();
  const all = (instruments.data ?? []).filter((status) => only.includes(status.kind));
  if (all.length === 0) return null;
  // Of several that would do, the first that answers.
  const ready = all.filter((status) => status.kind === wanted);
  const nearest = ready.find((status) => status.connected) ?? ready[0];
  const press = async (instrument: string) => {
    const figures = await aim();
    if (figures)
      await answered(server.POST('/api/instruments/press', { body: { instrument, aim: figures } }));
  };
  return (
    <Box
      component='section'
      aria-label='Instruments'
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        alignItems: 'center',
        columnGap: 1.5,
        minHeight: 30,
        fontSize: 13,
        color: token.inkSoft,
      }}
    >
      {all.map((status) => (
        <One key={status.name} status={status} wanted={status.kind === wanted} />
      ))}
      {wanted && nearest && (
        <Button
          variant='outlined'
          // The field must keep the focus, or nothing waits for the reading.
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => void press(nearest.name)}
          sx={{ width: '100%', py: 0.25, mt: 0.5, fontSize: 13.5 }}
        >
          Press the {names[wanted].toLowerCase()}
        </Button>
      )}
    </Box>
  );
}

function One({ status, wanted }: { status: InstrumentStatus; wanted: boolean }) {
  const state = !status.connected ? 'off' : status.battery == null ? 'on' : `${status.battery} %`;
  return (
    <Typography
      component='span'
      sx={{
        fontSize: 13,
        whiteSpace: 'nowrap',
        fontWeight: wanted ? 700 : 400,
        color: status.low ? token.fouls : wanted ? token.ink : token.inkSoft,
      }}
    >
      <span aria-hidden='true'>{status.connected ? '●' : '○'}</span>{' '}
      {status.name === status.kind ? names[status.kind] : status.name} {state}
      {status.low && ' low'}
    </Typography>
  );
}
