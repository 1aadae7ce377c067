import type { NumberedFault } from '@fennip/core/fault';
import type { Recipe } from '@fennip/core/recipe';
import type { BehindTheScenes, Readiness } from './service.ts';
import type { Bin } from './bin.ts';
import type { ChartedState } from './chartedStates.ts';
import type { ChartSummary, DustChartSheet, EntryVerdictRequest } from './charts.ts';
import type { Job, NewJob } from './job.ts';
import type { AssemblyDocument } from '../assembly/assemblyDocument.ts';
import type { JoinRequest, Joined } from './joining.ts';
import type { JobAccess, JobAccessChange } from './jobAccess.ts';
import type { JobLearning } from './jobLearning.ts';
import type { Acceptance, Invitation, Person, Role, Session, SignIn } from './people.ts';
import type { Present, WindowPlace } from './presence.ts';
import type { EditAnswer, Picture, PictureSheet } from './picture.ts';
import type {
  AwayFile,
  Delivery,
  DeliveryRequest,
  EditRequest,
  ExamineRequest,
  PictureChange,
  TakenBack,
  TurnBack,
} from './requests.ts';
import type {
  ChartedDecision,
  OpenDoubt,
  ProposedMend,
  Routine,
  RoutineDocument,
  Run,
  RunPiece,
  RunRequest,
  RunSteer,
} from './runs.ts';

// Types alone are taken from what is sent: the page reads this table when it starts, and checks nothing by schemas.

export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';

/** One thing that the server can be asked. */
export interface Endpoint<Path extends string = string, Body = unknown, Answer = unknown> {
  readonly method: Method;
  /** Below `/api`; a name after a colon stands for a part that differs. */
  readonly path: Path;
  /** What it does, in a sentence, for the page that describes the interface. */
  readonly does: string;
  /** The status of an answer. */
  readonly status: 200 | 201 | 202 | 204 | 302;
  /** The media type of an answer. */
  readonly sends: string;
  /** What may stand behind the question mark of the address. */
  readonly query: readonly string[];
  /** Bytes of what is sent along, at most. */
  readonly mostBytes: number;
  /** The least that somebody must be allowed to, where people sign in; nothing is open to those who are not signed in. */
  readonly role: Role | 'nobody';
  /** Types alone; nothing stands here. */
  readonly types?: { readonly body: Body; readonly answer: Answer };
}

type NamesIn<Path extends string> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? Name | NamesIn<Rest>
  : Path extends `${string}:${infer Name}`
    ? Name
    : never;

/** The parts of an address that differ, by name. */
export type ParamsOf<E extends Endpoint> = Readonly<Record<NamesIn<E['path']>, string>>;
export type BodyOf<E extends Endpoint> = NonNullable<E['types']>['body'];
export type AnswerOf<E extends Endpoint> = NonNullable<E['types']>['answer'];

interface Extras {
  readonly status?: Endpoint['status'];
  readonly sends?: string;
  readonly query?: readonly string[];
  readonly mostBytes?: number;
  readonly role?: Endpoint['role'];
}

/** A list of ten thousand pictures takes four hundred kilobytes. */
const MOST_BYTES = 1e6;
/**
 * An edit of thousands of mends takes a few megabytes. So much is parsed in a tenth of a second; to have it parsed elsewhere
 * and handed over would take as long.
 */
const MOST_EDIT_BYTES = 10e6;
const JSON_TYPE = 'application/json';

/** An endpoint whose answer, and what must be sent along, are of a type. */
const answering =
  <Answer, Body = undefined>() =>
  <Path extends string>(
    method: Method,
    path: Path,
    does: string,
    { status = 200, sends = JSON_TYPE, query = [], mostBytes = MOST_BYTES, role }: Extras = {},
  ): Endpoint<Path, Body, Answer> => ({
    ...{ method, path, does, status, sends, query, mostBytes },
    // Who may only look changes nothing.
    role: role ?? (method === 'GET' ? 'sees' : 'works'),
  });

/** An endpoint that answers without a word. */
const silent = <Path extends string>(method: Method, path: Path, does: string, role?: Endpoint['role']) =>
  answering<undefined>()(method, path, does, { status: 204, sends: '', ...(role ? { role } : {}) });

/** An endpoint that sends a file. */
const file = <Path extends string>(
  path: Path,
  sends: string,
  does: string,
  { query = [], role }: Pick<Extras, 'query' | 'role'> = {},
) => answering<never>()('GET', path, does, { sends, query, ...(role ? { role } : {}) });

const OCTETS = 'application/octet-stream';

/** All that the server can be asked, by name: its routes, the page's calls and the description of the interface follow. */
export const ENDPOINTS = {
  health: answering<{ alive: boolean }>()('GET', '/health', 'Says that the server is alive.', {
    role: 'nobody',
  }),
  ready: answering<Readiness>()(
    'GET',
    '/ready',
    'Says whether the server has all that it needs: database, queue, store and room; with 503 where it has not.',
    { role: 'nobody' },
  ),
  metrics: file('/metrics', 'text/plain', 'The figures of the server as Prometheus reads them.', {
    role: 'runs',
  }),
  behind: answering<BehindTheScenes>()('GET', '/behind', 'Room, work, who is at it, and what failed.', {
    role: 'runs',
  }),

  session: answering<Session>()('GET', '/session', 'Says who is signed in, and whether anybody must be.', {
    role: 'nobody',
  }),
  signIn: answering<Session, SignIn>()('POST', '/session', 'Signs somebody in.', { role: 'nobody' }),
  signOut: silent('DELETE', '/session', 'Signs out.', 'nobody'),
  signOutEverywhere: silent('DELETE', '/session/everywhere', 'Signs out wherever one is signed in.', 'sees'),
  openIdSignIn: answering<never>()(
    'GET',
    '/session/openid',
    'Leads to the provider that people sign in with; an invitation goes along.',
    { status: 302, sends: '', query: ['invitation'], role: 'nobody' },
  ),
  openIdBack: answering<never>()('GET', '/session/openid/back', 'Where the provider leads back to.', {
    ...{ status: 302, sends: '', role: 'nobody' },
    query: ['code', 'state', 'iss', 'error'],
  }),
  people: answering<Person[]>()('GET', '/people', 'Lists those who can sign in.', { role: 'runs' }),
  invite: answering<{ token: string }, Invitation>()(
    'POST',
    '/people/invitations',
    'Invites somebody; the token makes a link that is good once, for seven days.',
    { status: 201, role: 'runs' },
  ),
  removePerson: silent('DELETE', '/people/:person', 'Takes somebody away and signs them out.', 'runs'),
  acceptInvitation: answering<Session, Acceptance>()(
    'POST',
    '/invitations/:token',
    'Makes an account of an invitation, and signs in.',
    { status: 201, role: 'nobody' },
  ),

  bin: answering<Bin>()('GET', '/bin', 'Lists what lies in the bin, the newest first.'),
  restorePicture: silent('POST', '/bin/pictures/:picture/restore', 'Puts a picture back into its job.'),
  restoreJob: silent('POST', '/bin/jobs/:job/restore', 'Puts a job back with its pictures.'),
  emptyBin: silent('DELETE', '/bin', 'Takes all that lies in the bin away for good.', 'runs'),

  jobs: answering<Job[]>()('GET', '/jobs', 'Lists all jobs, the newest first.'),
  makeJob: answering<Job, NewJob>()('POST', '/jobs', 'Makes a job.', { status: 201 }),
  job: answering<{ job: Job; pictures: Picture[] }>()('GET', '/jobs/:job', 'A job with its pictures.'),
  removeJob: silent('DELETE', '/jobs/:job', 'Puts a job into the bin with all its pictures.'),
  jobAccess: answering<JobAccess>()(
    'GET',
    '/jobs/:job/people',
    'Says who sees a job, and who else could; only where people sign in.',
  ),
  changeJobAccess: answering<JobAccess, JobAccessChange>()(
    'PUT',
    '/jobs/:job/people',
    'Says who is to see a job: everybody, or those who are named.',
  ),
  learning: answering<JobLearning>()(
    'GET',
    '/jobs/:job/learning',
    'From how much of what was dismissed and marked by hand the finder has learned for the later pictures of a job.',
  ),
  forgetLearning: answering<JobLearning>()(
    'DELETE',
    '/jobs/:job/learning',
    'Lets a job learn anew from what is decided from now on; what was decided stays.',
  ),
  present: answering<Present[], WindowPlace>()(
    'PUT',
    '/jobs/:job/present',
    'Says which picture a window shows; answers who else has a picture of the job open.',
    { role: 'sees' },
  ),
  jobEvents: file('/jobs/:job/events', 'text/event-stream', 'Sends what happens in a job, as it happens.'),
  awayFiles: answering<AwayFile[]>()(
    'GET',
    '/jobs/:job/away',
    'Lists the files of a job that are out in another program.',
  ),
  chartedStates: answering<ChartedState[]>()(
    'GET',
    '/jobs/:job/charted',
    'Says what became of the places of dust charts on each picture of a job.',
  ),
  takePlace: answering<{ place: number }>()(
    'POST',
    '/jobs/:job/places',
    'Keeps the next place in a job for a picture that is about to be sent.',
    { status: 201 },
  ),
  addPicture: answering<Picture>()(
    'POST',
    '/jobs/:job/pictures',
    'Takes a picture into a job; the body is its file.',
    { status: 201, query: ['name', 'place'] },
  ),

  joinPictures: answering<Joined, JoinRequest>()(
    'POST',
    '/jobs/:job/joined',
    'Makes one picture of the pieces of a torn print that lie on pictures of a job.',
    { status: 201 },
  ),
  assembly: answering<AssemblyDocument>()(
    'GET',
    '/pictures/:picture/assembly',
    'Says what a joined picture was made from, and how.',
  ),

  picture: answering<PictureSheet>()(
    'GET',
    '/pictures/:picture',
    'A picture with its faults, its recipe and its history.',
  ),
  changePicture: answering<Picture, PictureChange>()(
    'PATCH',
    '/pictures/:picture',
    'Changes what is said about a picture as a whole.',
  ),
  removePicture: silent('DELETE', '/pictures/:picture', 'Puts a picture into the bin.'),
  takePage: answering<Picture>()(
    'POST',
    '/pictures/:picture/pages/:page',
    'Makes a picture of its own of one that the file holds beside its first; pages count from 0.',
    { status: 201 },
  ),
  examine: answering<Picture, ExamineRequest>()(
    'POST',
    '/pictures/:picture/examination',
    'Has a picture examined.',
    {
      status: 202,
    },
  ),
  stopExamining: silent('DELETE', '/pictures/:picture/examination', 'Lets an examination go.'),
  check: answering<Picture>()(
    'POST',
    '/pictures/:picture/check',
    'Has a picture examined again as it is mended.',
    { status: 202 },
  ),
  findings: answering<NumberedFault[]>()(
    'GET',
    '/pictures/:picture/findings',
    'All that was measured on a picture, also what is not listed.',
  ),
  crop: file('/pictures/:picture/crop', 'image/png', 'A square part of a picture as it came in.', {
    query: ['x', 'y', 'half'],
  }),
  proposal: answering<ProposedMend>()(
    'GET',
    '/pictures/:picture/faults/:fault/proposal',
    'A mend for a fault, with its place before and after.',
  ),
  edit: answering<EditAnswer, EditRequest>()(
    'POST',
    '/pictures/:picture/edits',
    'Carries out an edit, made on the revision that it names.',
    { mostBytes: MOST_EDIT_BYTES },
  ),
  undo: answering<EditAnswer, TurnBack>()('POST', '/pictures/:picture/undo', 'Takes the last edit back.'),
  redo: answering<EditAnswer, TurnBack>()(
    'POST',
    '/pictures/:picture/redo',
    'Carries out again what was taken back.',
  ),
  bringBack: answering<TakenBack>()(
    'POST',
    '/pictures/:picture/return',
    'Takes a picture back that was changed in another program; the body is its file.',
  ),
  reportPage: file('/pictures/:picture/report.html', 'text/html', 'The condition report as a page.', {
    query: ['save', 'language'],
  }),
  reportDocument: file('/pictures/:picture/report.pdf', 'application/pdf', 'The condition report on paper.', {
    query: ['paper', 'language'],
  }),
  deliveries: answering<Delivery[]>()(
    'GET',
    '/pictures/:picture/deliveries',
    'Lists the deliveries of a picture.',
  ),
  stopDelivery: silent('POST', '/deliveries/:delivery/stop', 'Stops a delivery that waits or is being made.'),
  deliver: answering<Delivery, DeliveryRequest>()(
    'POST',
    '/pictures/:picture/deliveries',
    'Orders a delivery.',
    {
      status: 202,
    },
  ),
  deliveredFile: file('/deliveries/:delivery/file', OCTETS, 'A delivered file.'),
  deliveredRecipe: answering<Recipe>()(
    'GET',
    '/deliveries/:delivery/recipe',
    'The recipe that a delivered file was rendered by.',
  ),
  tile: file('/tiles/:pyramid/:level/:column/:row', OCTETS, 'The samples of one tile, plane after plane.'),

  runs: answering<Run[]>()('GET', '/jobs/:job/runs', 'Lists the runs of a job.'),
  startRun: answering<Run, RunRequest>()('POST', '/jobs/:job/runs', 'Starts work on many pictures.', {
    status: 202,
  }),
  steerRuns: answering<Run[], RunSteer>()(
    'POST',
    '/jobs/:job/runs/steer',
    'Pauses, resumes or stops all runs of a job.',
  ),
  run: answering<Run>()('GET', '/runs/:run', 'How far a run is.'),
  runPieces: answering<RunPiece[]>()('GET', '/runs/:run/pieces', 'What a run did, picture by picture.'),
  steerRun: answering<Run, RunSteer>()('POST', '/runs/:run/steer', 'Pauses, resumes or stops a run.'),
  runArchive: file('/runs/:run/zip', 'application/zip', 'All files of a finished delivery.'),
  doubts: answering<OpenDoubt[]>()('GET', '/jobs/:job/doubts', 'Lists what runs left for a decision.'),
  decideCharted: answering<OpenDoubt[], ChartedDecision>()(
    'POST',
    '/jobs/:job/doubts',
    'Decides about a place of the dust chart on all pictures of a job.',
    { status: 202 },
  ),

  charts: answering<ChartSummary[]>()('GET', '/charts', 'Lists the dust charts of all cameras.'),
  chart: answering<DustChartSheet>()('GET', '/charts/:chart', 'A dust chart with its entries.'),
  chartFile: file('/charts/:chart/file', JSON_TYPE, 'A dust chart as a document of its own.'),
  judgeEntry: answering<DustChartSheet, EntryVerdictRequest>()(
    'PUT',
    '/charts/:chart/entries/:number/verdict',
    'Says what an entry of a dust chart is.',
  ),
  removeChart: silent('DELETE', '/charts/:chart', 'Takes a dust chart away.'),

  routines: answering<Routine[]>()('GET', '/routines', 'Lists all routines.'),
  keepRoutine: answering<Routine, RoutineDocument>()('POST', '/routines', 'Keeps a routine.', {
    status: 201,
  }),
  changeRoutine: answering<Routine, RoutineDocument>()('PUT', '/routines/:routine', 'Changes a routine.'),
  removeRoutine: silent('DELETE', '/routines/:routine', 'Takes a routine away.'),
} as const;

export type EndpointName = keyof typeof ENDPOINTS;
export type EndpointOf<Name extends EndpointName> = (typeof ENDPOINTS)[Name];

/** The address of an endpoint. @param query what stands behind its question mark */
export function addressOf<Name extends EndpointName>(
  name: Name,
  params: ParamsOf<EndpointOf<Name>>,
  query: Readonly<Record<string, string>> = {},
): string {
  const given: Readonly<Record<string, string>> = params;
  const path = ENDPOINTS[name].path.replace(/:(\w+)/g, (_, part: string) => encodeURIComponent(given[part]));
  const behind = new URLSearchParams(query).toString();
  return `/api${path}${behind === '' ? '' : `?${behind}`}`;
}
