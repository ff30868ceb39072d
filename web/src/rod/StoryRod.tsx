import { Box, ButtonBase, Typography } from '@mui/material';
import { useLayoutEffect, useRef, useState } from 'react';
import type {
  BendWorkup,
  BranchWorkup,
  Edit,
  Finding,
  JointWorkup,
  SeamWorkup,
  StraightWorkup,
  SupportWorkup,
  Workup,
} from '../api/generated/schema';
import { CARRIED, dropped, useAddAlong } from '../join/carried';
import { length, type Selected, samePart, sentence, useBench } from '../kit/bench';
import { severityLook } from '../kit/Findings';
import { dragged } from '../kit/snap';
import type { Drawing } from '../kit/useDrawing';
import type { Shown } from '../kit/useShown';
import { textFont, token } from '../theme';
import { AirTrace } from './AirTrace';
import { BendPart } from './BendPart';
import { BranchPart } from './BranchPart';
import { EndPart } from './EndPart';
import { HoseMarks } from './HoseMarks';
import { JointPart } from './JointPart';
import { PieceMarks } from './PieceMarks';
import { BOTTOM, TOP } from './part';
import { placedAt } from './placedAt';
import { SeamMarks } from './SeamMarks';
import { StraightPart } from './StraightPart';
import { SupportPart } from './SupportPart';
import { rodScale, rulerMarks } from './scale';
import { useDrag } from './useDrag';

const TRACE = 116;
const RULER = 160;
const HEIGHT = 188;
const MARGIN = 20;

interface Props {
  drawing: Drawing;
  /** Piece names and cuts are drawn on the rod in the Cut step. */
  showPieces: boolean;
  /** Welds that are numbered on the rod; nothing in other steps. */
  seams?: readonly SeamWorkup[] | undefined;
  /** Ways shown beside the one taken, whose traces are drawn over its own. */
  beside: Shown[];
}

/** The run unrolled to a straight stick, to scale from A: the main editor. */
export function StoryRod({ drawing, showPieces, seams, beside }: Props) {
  const { workup } = drawing;
  const unit = useBench((bench) => bench.unit);
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1240);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const totals = workup?.totals;

  return (
    <Box
      component='section'
      aria-label='Story rod'
      sx={{ borderTop: `3px solid ${token.ink}`, bgcolor: token.paper, px: 2.5, pt: 1.25, pb: 0.5 }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1.5 }}>
        <Typography variant='h2'>Story rod</Typography>
        {totals && (
          <>
            <Typography variant='body2' color='textSecondary'>
              {length(totals.developed, unit)} of {workup.hose ? 'hose' : 'tube'} along the centre line from A
              to B
            </Typography>
            <FindingChips findings={workup.findings} />
            {drawing.held && (
              <Typography role='status' variant='body2' sx={{ color: token.tightText, fontWeight: 700 }}>
                {sentence(drawing.held, unit)}
              </Typography>
            )}
            <Typography variant='body2' color='textSecondary' sx={{ ml: 'auto', whiteSpace: 'nowrap' }}>
              {!workup.hose && `${totals.seams} seams · ${length(totals.weld, unit)} of weld · `}
              {totals.mass_kg.toFixed(2)} kg · {totals.litres.toFixed(2)} l
            </Typography>
          </>
        )}
      </Box>
      <Box ref={box} sx={{ height: HEIGHT, mx: -2.5 }}>
        {workup && totals ? (
          <Rod
            drawing={drawing}
            workup={workup}
            width={width}
            showPieces={showPieces}
            seams={seams}
            beside={beside}
          />
        ) : (
          <Typography variant='body2' sx={{ px: 2.5, pt: 4, color: token.inkSoft }}>
            {workup
              ? 'There is no pipe to lay out yet. The bench pad at the right says why and what would help.'
              : 'Add a run and its pipe is laid out here, to scale, from A to B.'}
          </Typography>
        )}
      </Box>
    </Box>
  );
}

/** How many findings there are of each kind; a press shows the first. */
function FindingChips({ findings }: { findings: Finding[] }) {
  const show = useBench((bench) => bench.show);
  const kinds = ['error', 'warning', 'info'] as const;
  return kinds.map((severity) => {
    const these = findings.filter((finding) => finding.severity === severity);
    const [first] = these;
    if (!first) return null;
    const { word, shape, ink, paper, edge } = severityLook(severity);
    return (
      <ButtonBase
        key={severity}
        onClick={() => show(first)}
        aria-label={`${these.length} ${word.toLowerCase()}: show the first`}
        sx={{
          px: 1,
          color: ink,
          bgcolor: paper,
          border: `1px solid ${edge}`,
          fontSize: 13.5,
          fontWeight: 700,
        }}
      >
        {shape} {these.length} {severity === 'info' && these.length > 1 ? 'notes' : word.toLowerCase()}
      </ButtonBase>
    );
  });
}

interface RodProps {
  drawing: Drawing;
  workup: Workup;
  width: number;
  showPieces: boolean;
  seams: readonly SeamWorkup[] | undefined;
  beside: Shown[];
}

function Rod({ drawing, workup, width, showPieces, seams, beside }: RodProps) {
  const { unit, selected, select } = useBench();
  const scale = rodScale(workup, MARGIN, width - MARGIN);
  const drag = useDrag(drawing);
  const add = useAddAlong(workup, drawing);
  const end = workup.totals?.end_to_end.mm ?? 0;
  const marks = rulerMarks(end, scale.perMm, unit, 46);
  const worst = (place: Selected) =>
    workup.findings.find((finding) => samePart(finding.part, place))?.severity;
  const run = workup.run;

  const reshapeStraight =
    ({ straight, length: from }: StraightWorkup) =>
    (dx: number): Edit => {
      const wanted = Math.max(0, Math.round(from.mm + dx / scale.perMm));
      return dragged(run, { figure: 'straight', straight, length: wanted });
    };
  const reshapeAngle =
    (from: BendWorkup) =>
    (dx: number, dy: number): Edit => {
      // Along the stick opens the radius: half a millimetre for each pixel.
      if (Math.abs(dx) > 2 * Math.abs(dy)) {
        const radius = Math.max(5, Math.round(from.radius.mm + dx / 2));
        return { step: 'route', edit: 'set_bend_radius', run, bend: from.bend, radius };
      }
      // Away from it bends more: a quarter of a degree for each pixel.
      const away = from.side === 'above' ? -dy : dy;
      const wanted = Math.min(175, Math.max(1, Math.round((from.angle + away / 4) * 2) / 2));
      return dragged(run, { figure: 'angle', bend: from.bend, angle: wanted });
    };

  const moveJoint =
    (joint: JointWorkup) =>
    (dx: number): Edit => ({
      step: 'join',
      edit: 'change_joint',
      run,
      joint: joint.joint,
      to: { set: 'place', at: placedAt(workup, joint.at.mm + dx / scale.perMm) },
    });

  const moveSupport =
    (support: SupportWorkup) =>
    (dx: number): Edit => ({
      step: 'join',
      edit: 'change_support',
      run,
      support: support.support,
      to: { set: 'place', at: placedAt(workup, support.at.mm + dx / scale.perMm) },
    });

  const moveBranch =
    (branch: BranchWorkup) =>
    (dx: number): Edit => ({
      step: 'join',
      edit: 'change_branch',
      run,
      branch: branch.branch,
      to: { set: 'place', at: placedAt(workup, branch.at.mm + dx / scale.perMm) },
    });

  const looked = (part: Selected) => ({
    selected: samePart(selected, part),
    severity: worst(part),
    onSelect: () => select(part),
  });
  const picked = (part: Selected, change: (dx: number, dy: number) => Edit) => ({
    ...looked(part),
    handlers: drag({ change, onClick: () => select(part) }),
  });

  return (
    <svg
      width={width}
      height={HEIGHT}
      role='group'
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes(CARRIED)) event.preventDefault();
      }}
      onDrop={(event) => {
        const along = dropped(event);
        if (!along) return;
        event.preventDefault();
        const left = event.currentTarget.getBoundingClientRect().left;
        void add(along, (event.clientX - left - scale.x(0)) / scale.perMm);
      }}
      aria-label={`Parts of ${workup.name} from A to B`}
      style={{ display: 'block', touchAction: 'none', userSelect: 'none' }}
      fontFamily={textFont}
    >
      {workup.straights.map((straight, index) => (
        <StraightPart
          key={straight.straight}
          straight={straight}
          index={index}
          scale={scale}
          bare={showPieces}
          covered={[
            index === 0 ? (workup.ends[0].hose ? workup.ends[0].seat.mm : 0) : 0,
            index === workup.bends.length && workup.ends[1].hose ? workup.ends[1].seat.mm : 0,
          ]}
          taken={[
            ...workup.joints
              .filter(
                (joint) => joint.straight === straight.straight || joint.elbow?.bend === straight.straight,
              )
              .map((joint) => [joint.from.mm - joint.seat.mm, joint.to.mm + joint.seat.mm] as const),
            ...workup.supports
              .filter((support) => support.straight === straight.straight)
              .map((support) => [support.from.mm, support.to.mm] as const),
            ...workup.branches
              .filter((branch) => branch.straight === straight.straight)
              .map((branch) => [branch.from.mm, branch.to.mm] as const),
          ].sort((one, other) => one[0] - other[0])}
          {...picked({ part: 'straight', run, straight: straight.straight }, reshapeStraight(straight))}
        />
      ))}
      {workup.bends.map((bend, index) => (
        <BendPart
          key={bend.bend}
          bend={bend}
          elbow={workup.joints.find((joint) => joint.joint === bend.elbow)}
          index={index}
          scale={scale}
          {...picked({ part: 'bend', run, bend: bend.bend }, reshapeAngle(bend))}
        />
      ))}
      {workup.joints
        .filter((joint) => !joint.elbow)
        .map((joint) => (
          <JointPart
            key={joint.joint}
            joint={joint}
            scale={scale}
            {...picked({ part: 'joint', run, joint: joint.joint }, moveJoint(joint))}
          />
        ))}
      {workup.supports.map((support) => (
        <SupportPart
          key={support.support}
          support={support}
          scale={scale}
          {...picked({ part: 'support', run, support: support.support }, moveSupport(support))}
        />
      ))}
      {workup.branches.map((branch) => (
        <BranchPart
          key={branch.branch}
          branch={branch}
          scale={scale}
          {...picked({ part: 'branch', run, branch: branch.branch }, moveBranch(branch))}
        />
      ))}
      {workup.ends.map((mouth) => (
        <EndPart
          key={mouth.end}
          end={mouth}
          station={mouth.end === 'a' ? 0 : end}
          scale={scale}
          {...looked({ part: 'end', run, end: mouth.end })}
        />
      ))}
      {workup.hose && <HoseMarks hose={workup.hose} end={end} scale={scale} numbered={showPieces} />}
      {showPieces && !workup.hose?.pieces.length && <PieceMarks workup={workup} scale={scale} />}
      {workup.splices.map(({ mm }) => (
        // A tick at either edge: the straight's length is written between.
        <path
          key={mm}
          d={`M${scale.x(mm)} ${TOP}v8M${scale.x(mm)} ${BOTTOM}v-8`}
          stroke={token.seam}
          strokeWidth={1.5}
        >
          <title>Spliced here</title>
        </path>
      ))}
      {seams && <SeamMarks seams={seams} scale={scale} />}
      {workup.air && !showPieces && !seams && (
        <AirTrace workup={workup} air={workup.air} beside={beside} scale={scale} top={TRACE} right={width} />
      )}
      <g stroke={token.inkSoft} fill={token.inkSoft} fontSize={12} textAnchor='middle'>
        <line x1={scale.x(0)} x2={scale.x(end)} y1={RULER} y2={RULER} />
        {marks.map((mark) => (
          <g key={mark.label}>
            <line x1={scale.x(mark.station)} x2={scale.x(mark.station)} y1={RULER} y2={RULER + 7} />
            <text x={scale.x(mark.station)} y={RULER + 21} stroke='none'>
              {mark.label}
            </text>
          </g>
        ))}
      </g>
    </svg>
  );
}
