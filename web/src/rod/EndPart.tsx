import type { EndWorkup } from '../api/generated/schema';
import { length, useBench } from '../kit/bench';
import { headingFont, token } from '../theme';
import { Frame, Mark, onEnter, type PartProps, Sleeve, TOP } from './part';
import type { RodScale } from './scale';

interface EndProps {
  end: EndWorkup;
  station: number;
  scale: RodScale;
  selected: boolean;
  severity: PartProps['severity'];
  onSelect: () => void;
}

/** The joint at an end, as long as its hose. */
export function EndPart({ end, station, scale, selected, severity, onSelect }: EndProps) {
  const unit = useBench((bench) => bench.unit);
  const letter = end.end.toUpperCase();
  const outward = end.end === 'a' ? -1 : 1;
  const reach = end.hose ? end.gap.mm + end.port_seat.mm : 12 / scale.perMm;
  const inner = scale.x(station - outward * end.seat.mm);
  const outer = scale.x(station + outward * reach);
  const [x, width] = [Math.min(inner, outer), Math.abs(outer - inner)];
  const says = end.hose ? `${end.joint} cut ${length(end.hose, unit)}` : 'metal joint';
  return (
    <g
      role='button'
      tabIndex={0}
      aria-pressed={selected}
      aria-label={`End ${letter}, ${end.name}, ${says}`}
      onKeyDown={onEnter(onSelect)}
      onClick={onSelect}
      style={{ cursor: 'pointer' }}
    >
      <Sleeve x={x} width={width} fill={end.hose ? token.ink : token.dye} />
      <Frame x={x} width={width} beyond={7} on={selected} />
      <text
        x={x + width / 2}
        y={TOP + 25}
        textAnchor='middle'
        fontSize={18}
        fontWeight={600}
        fill={token.sheet}
        fontFamily={headingFont}
      >
        {letter}
      </text>
      <Mark x={x + width / 2} severity={severity} />
    </g>
  );
}
