import { Box, Button, Link as MuiLink, Typography } from '@mui/material';
import { type ReactNode, useState } from 'react';
import { Link } from 'react-router';
import type { CardWorkup, Done } from '../api/generated/schema';
import { sentence, type Unit, useBench } from '../kit/bench';
import { useKeys } from '../kit/useKeys';
import { headingFont, token } from '../theme';
import { type Offline, useOffline } from '../worker/useOffline';
import { CardPicture } from './CardPicture';
import { type QueueState, understood, useQueue } from './deedQueue';
import { nextOpen } from './standing';
import { useWakeLock } from './useWakeLock';
import { WentWrong } from './WentWrong';

/** What became of a piece where that is not what its list has. */
export interface Otherwise {
  what: Done;
  /** Whether the piece is cut by it. */
  isCut: boolean;
  /** What is left of the stick then, in mm; nothing where no stick is named. */
  left: number | undefined;
}

interface Props {
  /** What stands first at the head where no card does. */
  mark: string;
  name: string;
  cards: readonly CardWorkup[];
  done: readonly boolean[];
  /** What is said of all of them. */
  notice?: ReactNode;
  /** What is said where there are no cards. */
  none?: ReactNode;
  home: { to: string; name: string };
  onDo: (at: number, otherwise?: Otherwise) => void;
  onUndo: (at: number) => void;
}

/** Cards one at a time, each with its picture, its figures and one big button. */
export function CardDesk({ mark, name, cards, done, notice, none, home, onDo, onUndo }: Props) {
  const unit = useBench((bench) => bench.unit);
  const setUnit = useBench((bench) => bench.setUnit);
  const queue = useQueue();
  const awake = useWakeLock();
  const offline = useOffline();
  const [place, setPlace] = useState<number>();
  const [wrong, setWrong] = useState(false);
  const at = place === undefined ? nextOpen(done, 0) : Math.min(place, Math.max(0, cards.length - 1));
  const card = cards[at];
  const go = (to: number) => {
    setWrong(false);
    setPlace(Math.max(0, Math.min(to, cards.length - 1)));
  };
  const act = (otherwise?: Otherwise) => {
    onDo(at, otherwise);
    setWrong(false);
    if (!otherwise || otherwise.isCut) go(nextOpen(done.with(at, true), at + 1));
  };
  useKeys((event) => {
    if (event.key === 'ArrowRight') go(at + 1);
    else if (event.key === 'ArrowLeft') go(at - 1);
    else return false;
    return true;
  });
  const finished = cards.length > 0 && done.every(Boolean);
  return (
    <Box
      component='main'
      sx={{ height: '100dvh', maxWidth: 520, mx: 'auto', display: 'flex', flexDirection: 'column' }}
    >
      <Box
        sx={{
          display: 'flex',
          alignItems: 'baseline',
          gap: 1.25,
          px: 2,
          py: 1.5,
          bgcolor: token.ink,
          color: token.sheet,
        }}
      >
        <Typography
          component='h1'
          sx={{ fontFamily: headingFont, fontSize: 28, fontWeight: 600, color: token.straw }}
        >
          {card?.title ?? mark}
        </Typography>
        <Box sx={{ fontSize: 15, minWidth: 0, flex: 1 }}>
          {name}
          {card && ` · ${card.what}`}
        </Box>
        <Button
          onClick={() => setUnit(unit === 'mm' ? 'in' : 'mm')}
          aria-label={`Lengths in ${unit}; change`}
          sx={{ color: token.sheet, minWidth: 44, p: 0 }}
        >
          {unit}
        </Button>
      </Box>
      <Box sx={{ display: 'flex', height: 6, bgcolor: token.ink, gap: '1px', flexShrink: 0 }} aria-hidden>
        {cards.map((one, index) => (
          <Box
            key={one.key}
            sx={{
              flex: 1,
              bgcolor: index === at ? token.straw : done[index] ? token.dyeLight : token.inkEdge,
            }}
          />
        ))}
      </Box>
      <Sending waiting={queue.waiting.length} away={queue.away} refused={queue.refused} />
      {notice}
      {!card && none}
      {card && (
        <>
          <Box
            component='section'
            aria-label='What to do'
            // Scrolled with the keys where it is longer than the screen.
            tabIndex={0}
            sx={{ flex: 1, overflowY: 'auto', display: 'flex', flexDirection: 'column' }}
          >
            <CardPicture picture={card.picture} unit={unit} />
            <Figures card={card} unit={unit} />
            <Box sx={{ px: 2, py: 1.5 }}>
              {card.words.map((one) => (
                <Typography key={one.mm} sx={{ fontSize: 18, lineHeight: 1.35, mb: 1 }}>
                  {sentence(one, unit)}
                </Typography>
              ))}
              {at === 0 && <Missing awake={awake} offline={offline} />}
              {finished && (
                <Typography role='status' sx={{ fontSize: 20, fontWeight: 700, mt: 1 }}>
                  All of it is done.
                </Typography>
              )}
            </Box>
            {wrong && card.piece && (
              <WentWrong
                piece={card.piece}
                left={card.left}
                unit={unit}
                onKeep={act}
                onClose={() => setWrong(false)}
              />
            )}
          </Box>
          <Foot
            card={card}
            isDone={done[at] === true}
            first={at === 0}
            wrong={wrong}
            onBack={() => go(at - 1)}
            onNext={() => go(nextOpen(done, at + 1))}
            onWrong={() => setWrong(true)}
            onDo={() => act()}
            onUndo={() => onUndo(at)}
          />
        </>
      )}
      <Box sx={{ px: 2, py: 0.5, display: 'flex', justifyContent: 'space-between', fontSize: 14 }}>
        <MuiLink component={Link} to={home.to} sx={{ color: token.dye }}>
          {home.name}
        </MuiLink>
        {cards.length > 0 && (
          <span>
            {done.filter(Boolean).length} of {cards.length} done
          </span>
        )}
      </Box>
    </Box>
  );
}

/** What this browser does not let the page do. */
function Missing({ awake, offline }: { awake: boolean; offline: Offline }) {
  const missing = [
    ...(awake
      ? []
      : ['The screen may go dark by itself: this browser does not let the page keep it awake here.']),
    ...(offline === false
      ? [
          'Leave this page open: this browser does not let it be opened again without a connection here. What you tick is kept all the same.',
        ]
      : []),
  ];
  return missing.map((words) => (
    <Typography key={words} variant='body2' sx={{ color: token.inkSoft, mb: 0.5 }}>
      {words}
    </Typography>
  ));
}

/** What the server has not got yet, or would not take. */
function Sending({
  waiting,
  away,
  refused,
}: {
  waiting: number;
  away: QueueState['away'];
  refused: string | undefined;
}) {
  if (!refused && !(away && waiting > 0)) return null;
  const acts = `${waiting} ${waiting === 1 ? 'act is' : 'acts are'} kept here and sent when it is`;
  return (
    <Box role='status' sx={{ px: 2, py: 1, fontSize: 15, bgcolor: token.tightPaper, color: token.tightText }}>
      {refused ? (
        <>
          Not noted: {refused}{' '}
          <Button onClick={understood} sx={{ p: 0, minHeight: 0 }}>
            Understood
          </Button>
        </>
      ) : away === 'unpaired' ? (
        <>
          This device is not paired any more: {acts}. <MuiLink href='/pair'>Pair it again</MuiLink>
        </>
      ) : (
        `No connection: ${acts} back.`
      )}
    </Box>
  );
}

/** Figures large enough to be read from the saw. */
function Figures({ card, unit }: { card: CardWorkup; unit: Unit }) {
  if (card.figures.length === 0) return null;
  return (
    <Box
      component='dl'
      sx={{ m: 0, display: 'grid', gridTemplateColumns: '1fr 1fr', borderTop: `1px solid ${token.hairline}` }}
    >
      {card.figures.map((figure) => {
        const shown = sentence(figure.value, unit);
        return (
          <Box
            key={`${figure.name} ${shown}`}
            sx={{
              px: 2,
              py: 1,
              borderBottom: `1px solid ${token.hairline}`,
              '&:nth-of-type(odd)': { borderRight: `1px solid ${token.hairline}` },
            }}
          >
            <Box component='dt' sx={{ fontSize: 15, color: token.inkSoft, lineHeight: 1.25 }}>
              {figure.name}
            </Box>
            <Box
              component='dd'
              sx={{
                m: 0,
                fontFamily: headingFont,
                fontWeight: 600,
                lineHeight: 1.1,
                fontSize: shown.length < 8 ? 56 : shown.length < 14 ? 34 : 26,
              }}
            >
              {shown}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}

interface FootProps {
  card: CardWorkup;
  isDone: boolean;
  first: boolean;
  wrong: boolean;
  onBack: () => void;
  onNext: () => void;
  onWrong: () => void;
  onDo: () => void;
  onUndo: () => void;
}

/** Back, what else may have happened, and the one big button. */
function Foot({ card, isDone, first, wrong, onBack, onNext, onWrong, onDo, onUndo }: FootProps) {
  const side = {
    fontSize: 18,
    fontFamily: headingFont,
    px: 1.5,
    borderRadius: 0,
    minWidth: 84,
    color: token.ink,
  };
  return (
    <Box sx={{ display: 'flex', minHeight: 92, borderTop: `1px solid ${token.hairline}`, flexShrink: 0 }}>
      <Button sx={side} disabled={first} onClick={onBack}>
        Back
      </Button>
      {isDone ? (
        <Button sx={side} onClick={onUndo}>
          Not after all
        </Button>
      ) : (
        card.piece &&
        !wrong && (
          <Button sx={side} onClick={onWrong}>
            Went wrong
          </Button>
        )
      )}
      <Button
        variant='contained'
        onClick={isDone ? onNext : onDo}
        sx={{ flex: 1, borderRadius: 0, fontSize: 28, fontFamily: headingFont, lineHeight: 1.1 }}
      >
        {isDone ? 'Next' : card.button}
      </Button>
    </Box>
  );
}
