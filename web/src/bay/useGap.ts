import { useQuery } from '@tanstack/react-query';
import { answered, server, words } from '../api/client';
import type { GapWorkup, PartRef } from '../api/generated/schema';

/** How the distance between two things that were pressed stands. */
export type GapBetween = { is: 'asked' } | { is: 'known'; gap: GapWorkup } | { is: 'refused'; why: string };

/** The least distance between two things of a job as it is kept; nothing until both are named. */
export function useGap(
  job: number,
  revision: number,
  between: PartRef[] | undefined,
): GapBetween | undefined {
  const [one, other] = between ?? [];
  const gap = useQuery({
    queryKey: ['gap', job, revision, one, other],
    enabled: one !== undefined && other !== undefined,
    retry: false,
    queryFn: () =>
      answered(
        server.POST('/api/jobs/{id}/gap', {
          params: { path: { id: job } },
          body: { one: one as PartRef, other: other as PartRef },
        }),
      ),
  });
  if (!one || !other) return undefined;
  if (gap.data) return { is: 'known', gap: gap.data };
  return gap.isError ? { is: 'refused', why: words(gap.error) } : { is: 'asked' };
}
