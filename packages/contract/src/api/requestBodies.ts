import type { TSchema } from '@sinclair/typebox';
import type { BodyOf, EndpointName, EndpointOf } from './endpoints.ts';
import { EntryVerdictSchema } from './charts.ts';
import { NewJobSchema } from './job.ts';
import { JoinRequestSchema } from './joining.ts';
import { JobAccessChangeSchema } from './jobAccess.ts';
import { AcceptanceSchema, InvitationSchema, SignInSchema } from './people.ts';
import { WindowPlaceSchema } from './presence.ts';
import {
  DeliveryRequestSchema,
  EditRequestSchema,
  ExamineRequestSchema,
  PictureChangeSchema,
  TurnBackSchema,
} from './requests.ts';
import { ChartedDecisionSchema, RoutineDocumentSchema, RunRequestSchema, RunSteerSchema } from './runs.ts';

/** Endpoints that something must be sent along to. */
type Taking = {
  [Name in EndpointName]: BodyOf<EndpointOf<Name>> extends undefined ? never : Name;
}[EndpointName];

const BODIES: Readonly<Record<Taking, TSchema>> = {
  signIn: SignInSchema,
  invite: InvitationSchema,
  acceptInvitation: AcceptanceSchema,
  makeJob: NewJobSchema,
  changeJobAccess: JobAccessChangeSchema,
  present: WindowPlaceSchema,
  joinPictures: JoinRequestSchema,
  changePicture: PictureChangeSchema,
  examine: ExamineRequestSchema,
  edit: EditRequestSchema,
  undo: TurnBackSchema,
  redo: TurnBackSchema,
  deliver: DeliveryRequestSchema,
  startRun: RunRequestSchema,
  steerRuns: RunSteerSchema,
  steerRun: RunSteerSchema,
  decideCharted: ChartedDecisionSchema,
  judgeEntry: EntryVerdictSchema,
  keepRoutine: RoutineDocumentSchema,
  changeRoutine: RoutineDocumentSchema,
};

/** The schema of what must be sent along to an endpoint; null where there is nothing. */
export const bodySchemaOf = (name: EndpointName): TSchema | null =>
  (BODIES as Partial<Record<EndpointName, TSchema>>)[name] ?? null;
