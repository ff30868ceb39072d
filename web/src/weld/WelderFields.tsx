import { Box } from '@mui/material';
import type { Inside, Process, Welder } from '../api/generated/schema';
import { useKeepWorkshop, useWorkshop } from '../api/workshop';
import { Choice } from '../kit/Choice';
import { Fold } from '../kit/Fold';
import { NumberField } from '../kit/NumberField';
import { insideNames, processNames } from './words';

/** As a workshop is of which nobody said anything. */
const usual: Welder = {
  process: 'tig',
  most_amps: 200,
  travel: 80,
  purge_flow: 8,
  bottle: 20,
  inside: 'purge',
};

/** Machine, bottle and hand: they are the workshop's, for all jobs. */
export function WelderFields() {
  const { data } = useWorkshop();
  const { mutateAsync } = useKeepWorkshop();
  const welder = data?.workshop.welder ?? usual;
  const change = (to: Partial<Welder>) => mutateAsync({ edit: 'set_welder', welder: { ...welder, ...to } });
  return (
    <Fold name='Welded with' aside={`${processNames[welder.process]}, ${welder.most_amps} A`}>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: '1fr 1fr',
          columnGap: 1.5,
          rowGap: 1.75,
          mt: 1.25,
          mb: 1,
        }}
      >
        <Choice
          label='How'
          value={welder.process}
          options={Object.entries(processNames) as [Process, string][]}
          onChange={(process) => void change({ process })}
          width='100%'
        />
        <Choice
          label='Inside stainless'
          value={welder.inside}
          options={Object.entries(insideNames) as [Inside, string][]}
          onChange={(inside) => void change({ inside })}
          width='100%'
        />
        <NumberField
          label='The machine gives at most'
          unit='A'
          digits={0}
          value={welder.most_amps}
          onKeep={(most_amps) => change({ most_amps })}
          width='100%'
        />
        <NumberField
          label='The torch goes'
          unit='mm/min'
          digits={0}
          value={welder.travel}
          onKeep={(travel) => change({ travel })}
          width='100%'
        />
        <NumberField
          label='Gas inside flows'
          unit='l/min'
          value={welder.purge_flow}
          onKeep={(purge_flow) => change({ purge_flow })}
          width='100%'
        />
        <NumberField
          label='The bottle holds of water'
          unit='l'
          value={welder.bottle}
          onKeep={(bottle) => change({ bottle })}
          width='100%'
        />
      </Box>
    </Fold>
  );
}
