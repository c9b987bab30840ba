import type { BaseRefusal } from '@/server/base-answers';
import { refuse } from '../../guard';

const STATUS = { missing: 404, unfit: 422 } as const;

/** What a base answers; refused where it can't be asked. */
export const answered = <T extends object>(answer: T | BaseRefusal): T =>
  typeof answer === 'string' ? refuse(STATUS[answer], answer) : answer;
