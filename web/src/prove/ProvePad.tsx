import { Box, ButtonBase, Typography } from '@mui/material';
import { words } from '../api/client';
import type { Done, JobState, Workup } from '../api/generated/schema';
import { useDeed } from '../api/record';
import { sentence, useBench } from '../kit/bench';
import { Fold } from '../kit/Fold';
import type { Drawing } from '../kit/useDrawing';
import { Lessons, NoteLesson } from '../log/Lessons';
import { TimeKeeper } from '../log/TimeKeeper';
import { token } from '../theme';
import { Sentences } from '../weld/Sentences';
import { CheckList } from './CheckList';
import { LeakTest } from './LeakTest';
import { SignOff } from './SignOff';
import { useProve } from './useProve';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

/** The bench pad of the Prove step: whether it is tight, held and done. */
export function ProvePad({ state, workup, drawing }: Props) {
  const { unit, select } = useBench();
  const { run } = workup;
  const { mutateAsync, isPending } = useDeed(state.id);
  const data = useProve(state, run);
  const note = async (done: Done) => {
    try {
      await mutateAsync(done);
      return true;
    } catch (error) {
      drawing.say(words(error));
      return false;
    }
  };
  if (!data) return null;
  if (data.none) {
    return (
      <>
        <Typography variant='h1' component='h2' sx={{ mb: 1 }}>
          Nothing to prove
        </Typography>
        <Typography variant='body2'>{sentence(data.none, unit)}</Typography>
      </>
    );
  }
  const { sign, test } = data;
  const checked = data.checks.filter((check) => check.good === true).length;
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', mb: 1 }}>
        <Typography variant='h1' component='h2'>
          Is it done?
        </Typography>
        <Typography variant='body2'>
          {checked} of {data.checks.length} checked
        </Typography>
      </Box>
      <Lessons state={state} workup={workup} step='prove' />
      <SignOff
        sign={sign}
        revision={state.revision}
        busy={isPending}
        onSign={() =>
          void note({ deed: 'signed', run, signature: { of: sign.of, revision: state.revision } })
        }
      />
      {test && (
        <LeakTest
          key={run}
          job={state.id}
          run={run}
          test={test}
          onNote={(done) => note({ deed: 'tested', run, test: done })}
        />
      )}
      <Sentences all={data.cautions.map((text) => ({ mm: text, inch: text }))} unit={unit} caution />
      {data.soap.length > 0 && (
        <Fold name='Where to look with soap' aside='likeliest first'>
          <Box component='ol' sx={{ m: 0, mb: 1, pl: 2.75, fontSize: 14.5 }}>
            {data.soap.map((place) => (
              <li key={`${place.what} ${JSON.stringify(place.part)}`}>
                <ButtonBase sx={{ font: 'inherit' }} onClick={() => select(place.part)}>
                  {place.what}
                </ButtonBase>
                <Box component='span' sx={{ color: token.inkSoft }}>
                  : {place.why}
                </Box>
              </li>
            ))}
          </Box>
        </Fold>
      )}
      {data.filling.length > 0 && (
        <Fold name='Fill it, bleed it, heat it' aside={`${data.filling.length} steps`}>
          <Sentences all={data.filling} unit={unit} />
        </Fold>
      )}
      <CheckList
        checks={data.checks}
        busy={isPending}
        onAnswer={(answer) => void note({ deed: 'checked', run, answer })}
        onBack={(check) => void note({ deed: 'not_checked', run, item: check.item })}
        onSelect={(check) => select(check.part)}
      />
      <TimeKeeper key={`prove ${run}`} job={state.id} workup={workup} step='prove' />
      <NoteLesson workup={workup} step='prove' />
    </>
  );
}
