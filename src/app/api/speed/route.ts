import { findSpeed } from '@/contract/review';
import { measuredSpeed } from '@/server/speed';
import { serve } from '../guard';

export const GET = serve(findSpeed, ({ query }) => measuredSpeed(query.kind));
