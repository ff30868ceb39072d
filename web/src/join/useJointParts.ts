import { useQuery } from '@tanstack/react-query';
import { answered, server } from '../api/client';

/** Parts that joints are made with, as the catalogue has them. */
export function useJointParts() {
  return useQuery({
    queryKey: ['joint-parts'],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answered(server.GET('/api/catalogue/joints')),
  }).data;
}
