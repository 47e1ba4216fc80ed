import * as v from 'valibot';
import { CONTROL_ROLES, STATUS_ROLES } from '../words/spec';
import { wordSchema } from '../words/word-schema';

export const WordsSection = v.strictObject({ control: wordSchema(CONTROL_ROLES), status: wordSchema(STATUS_ROLES) });
