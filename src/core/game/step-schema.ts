import * as z from 'zod';
import type { Move } from './move';
import { END_REASONS, RESULTS } from './result';
import { annotationsSchema, tagSchema } from './serial';
import { LIMITS } from './problem';
import type { Step } from './steps';
import { ANNOTATION_FIELDS } from './tree';

const nodeId = z.number().int().nonnegative();
const index = z.number().int().nonnegative();
const move = z
  .number()
  .int()
  .min(0)
  .max(2 ** 22)
  .transform((packed) => packed as Move);

const branch = z
  .array(annotationsSchema.extend({ id: nodeId, parent: nodeId.nullable(), move }))
  .min(1)
  .max(LIMITS.nodes);

const annotate = z
  .object({
    type: z.literal('annotate'),
    node: nodeId,
    field: z.enum(ANNOTATION_FIELDS),
    value: z.unknown().optional(),
  })
  .refine(({ field, value }) => annotationsSchema.shape[field].safeParse(value).success, {
    message: 'the value does not suit the field',
  });

/** Steps as they come from outside. Whether they fit a game is for applyStep to say. */
export const stepSchema: z.ZodType<Step> = z.union([
  z.object({ type: z.literal('insert'), parent: nodeId, index, branch }),
  z.object({ type: z.literal('remove'), node: nodeId }),
  z.object({ type: z.literal('place'), node: nodeId, index }),
  annotate,
  z.object({
    type: z.literal('tag'),
    name: tagSchema.shape.name,
    value: tagSchema.shape.value.nullable(),
    index: index.optional(),
  }),
  z.object({
    type: z.literal('finish'),
    result: z.enum(RESULTS),
    end: z.enum(END_REASONS).nullable(),
  }),
]) as z.ZodType<Step>;
