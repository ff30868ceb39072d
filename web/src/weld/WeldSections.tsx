import { Box, Typography } from '@mui/material';
import type { WeldSectionWorkup } from '../api/generated/schema';
import { length, type Unit } from '../kit/bench';
import { Row } from '../kit/Row';

interface Props {
  sections: readonly WeldSectionWorkup[];
  unit: Unit;
}

/** What welds pull, begun as is told here and begun anyhow. */
export function WeldSections({ sections, unit }: Props) {
  return sections.map((section) => (
    <Box key={section.name} sx={{ mb: 1 }}>
      {sections.length > 1 && (
        <Typography variant='h3' component='h4'>
          {section.name}
        </Typography>
      )}
      <Row
        name='In this order'
        aside={`held at A's side, ${section.seams} ${section.seams === 1 ? 'seam' : 'seams'}`}
      >
        {length(section.pulled, unit)}, {section.pulled_degrees.toFixed(2)}°
      </Row>
      <Row name='Straight round' aside='every seam from its first quarter'>
        {length(section.straight, unit)}, {section.straight_degrees.toFixed(2)}°
      </Row>
      <Row name='Shorter by' aside='all its welds together'>
        {length(section.shrinks, unit)}
      </Row>
    </Box>
  ));
}
