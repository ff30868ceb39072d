import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { answered, server, words } from '../api/client';
import type { JobState, SupportWorkup, Workup } from '../api/generated/schema';
import { length, sentence, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { sideNames, supportNames } from '../measure/names';
import { token } from '../theme';
import { ListRow } from './ListRow';
import { SupportSign } from './SupportSign';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

/** What holds the pipe between its joints, how its spans ring, and the fewest supports that would do. */
export function HoldList({ state, workup, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { run, supports, spans } = workup;
  const weakest = spans.find((span) => span.weakest);
  return (
    <Box component='section' aria-label='What holds it' sx={{ mb: 1.5 }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center' }}>
        <Typography variant='h2'>What holds it</Typography>
        <Propose state={state} workup={workup} drawing={drawing} />
      </Box>
      {supports.map((support) => (
        <ListRow
          key={support.support}
          part={{ part: 'support', run, support: support.support }}
          sign={<SupportSign kind={support.kind} />}
          name={support.name.replace(/^.* on /, 'On ')}
          below={`${supportNames[support.kind]} · ${sideNames[support.fixed_to].toLowerCase()}`}
        >
          <Box sx={{ fontSize: 13, color: token.inkSoft, textAlign: 'right' }}>{standsOn(support)}</Box>
        </ListRow>
      ))}
      {weakest && (
        <Typography
          variant='body2'
          sx={{
            py: 0.5,
            borderTop: `1px solid ${token.hairline}`,
            color: weakest.holds === false ? token.tightText : token.inkSoft,
          }}
        >
          {supports.length === 0 ? 'Its joints alone. ' : ''}
          Weakest span: {sentence(weakest.said, unit)}.
        </Typography>
      )}
    </Box>
  );

  function standsOn(support: SupportWorkup) {
    const on = support.feet.find((foot) => foot.on)?.on;
    const [first] = support.feet;
    if (!first) return 'through a panel';
    return on ? `${length(first.height, unit)} to the ${on}` : 'on nothing drawn';
  }
}

/** Puts on the fewest supports with which no span rings, or says why there are none to put on. */
function Propose({ state, workup, drawing }: Props) {
  const [said, setSaid] = useState<string>();
  const propose = async () => {
    setSaid(undefined);
    try {
      const path = { id: state.id, run: workup.run };
      const found = await answered(server.GET('/api/jobs/{id}/runs/{run}/hold-up', { params: { path } }));
      if (!found.edit) setSaid('It holds as it is: no span rings.');
      else if (await drawing.keep(found.edit)) setSaid(`${found.count} put on.`);
    } catch (error) {
      setSaid(words(error));
    }
  };
  return (
    <>
      <Typography role='status' variant='body2' sx={{ ml: 1, mr: 'auto', color: token.inkSoft }}>
        {said}
      </Typography>
      <Button size='small' variant='outlined' onClick={() => void propose()}>
        Propose the fewest
      </Button>
    </>
  );
}
