import { Box, Button, ButtonBase, Link as MuiLink } from '@mui/material';
import { Link } from 'react-router';
import type { ChainWorkup, SawnFrom, StickPlan } from '../api/generated/schema';
import { stickCardsAt } from '../head/steps';
import { length, sentence, useBench } from '../kit/bench';
import { token } from '../theme';
import { ChainCuts } from './ChainCuts';

interface Props {
  job: number;
  stick: StickPlan;
  /** The longest of all, in mm: all are drawn to one scale. */
  longest: number;
  picked: ChainWorkup | undefined;
  onPick: (chain: ChainWorkup | undefined) => void;
  onSawn: (from: SawnFrom) => void;
}

const sameChain = (one: ChainWorkup | undefined, other: ChainWorkup) =>
  one?.run === other.run && one.pieces.join() === other.pieces.join();

const marks = ({ pieces }: ChainWorkup) =>
  pieces.length > 2 ? `${pieces[0]}–${pieces.at(-1)}` : pieces.join(' ');

/** A stick with what is sawn from it, to scale; what is left is plain. */
export function StickBar({ job, stick, longest, picked, onPick, onSawn }: Props) {
  const unit = useBench((bench) => bench.unit);
  const share = (mm: number) => `${(100 * mm) / stick.length.mm}%`;
  const wide = (chain: ChainWorkup) => chain.takes.mm / longest > 0.22;
  const open = stick.chains.find((chain) => sameChain(picked, chain));
  const name = stick.stick == null ? 'Buy' : `S${stick.stick}`;
  const pieces = stick.chains.flatMap(({ run, cuts }) =>
    cuts.flatMap(({ piece }) => (piece ? [{ run, piece }] : [])),
  );
  return (
    <Box
      component='li'
      sx={{ display: 'grid', gridTemplateColumns: '128px 1fr', alignItems: 'center', gap: 1, py: 0.75 }}
    >
      <Box sx={{ lineHeight: 1.25, whiteSpace: 'nowrap' }}>
        <Box component='strong' sx={{ color: stick.stick == null ? token.dye : token.ink, fontSize: 17 }}>
          {name}
        </Box>{' '}
        <Box component='span' sx={{ whiteSpace: 'nowrap', fontSize: 14 }}>
          {length(stick.length, unit)}
        </Box>
        <Box sx={{ fontSize: 13, color: token.inkSoft }}>
          {stick.left.mm > 0.05 ? `${length(stick.left, unit)} left` : 'all of it'}
        </Box>
        <Button
          variant='text'
          sx={{ p: 0, minHeight: 0, fontSize: 13.5 }}
          aria-label={`${name} is sawn: its pieces are cut, and what is left of it is on the shelf`}
          onClick={() => onSawn({ what: 'stick', stick: stick.stick ?? null, pieces })}
        >
          It is sawn
        </Button>
        {stick.stick != null && (
          <MuiLink
            component={Link}
            to={stickCardsAt(job, stick.stick)}
            aria-label={`Bench cards of ${name}`}
            sx={{ ml: 1, fontSize: 13.5, fontWeight: 700 }}
          >
            Cards
          </MuiLink>
        )}
      </Box>
      <Box
        sx={{
          position: 'relative',
          height: 44,
          width: `${(100 * stick.length.mm) / longest}%`,
          bgcolor: token.paper,
          border: `1px dashed ${token.metalEdge}`,
        }}
      >
        {stick.chains.map((chain) => {
          const on = sameChain(picked, chain);
          return (
            <ButtonBase
              key={`${chain.run} ${chain.pieces.join()}`}
              aria-pressed={on}
              aria-label={`${chain.pieces.join(', ')} of ${chain.name}, ${length(chain.takes, unit)}`}
              title={`${chain.name}: ${chain.pieces.join(', ')}`}
              onClick={() => onPick(on ? undefined : chain)}
              sx={{
                position: 'absolute',
                top: -1,
                bottom: -1,
                left: share(chain.from.mm),
                width: share(chain.takes.mm),
                overflow: 'hidden',
                bgcolor: on ? token.strawSoft : token.metal,
                border: `1px solid ${on ? token.straw : token.metalEdge}`,
                borderWidth: on ? 3 : 1,
                fontSize: 14,
                fontWeight: 700,
                whiteSpace: 'nowrap',
              }}
            >
              <Box
                component='span'
                sx={{ overflow: 'hidden', textOverflow: 'ellipsis', px: 0.25, maxWidth: '100%' }}
              >
                {marks(chain)}
                {wide(chain) && (
                  <Box component='span' sx={{ fontWeight: 400, ml: 1 }}>
                    {chain.name}
                  </Box>
                )}
              </Box>
            </ButtonBase>
          );
        })}
      </Box>
      {stick.hold && (
        <Box sx={{ gridColumn: '1 / -1', fontSize: 14, color: token.tightText }}>
          ▲ {sentence(stick.hold, unit)}
        </Box>
      )}
      {open && (
        <Box sx={{ gridColumn: '1 / -1' }}>
          <ChainCuts chain={open} unit={unit} onClose={() => onPick(undefined)} />
        </Box>
      )}
    </Box>
  );
}
