/** The HTTP face of the shop. Every input is checked here and trusted behind. */
import { raw, Router, type Request, type Response } from 'express';
import { rightOfEntry } from '@cork-ember/core/access/rights.ts';
import type { Pace } from '@cork-ember/core/clock/clock.ts';
import {
  appendSchema,
  clockSchema,
  deliverySchema,
  sinceSchema,
  instrumentReadSchema,
  intakeSchema,
  issueSchema,
  photoKeySchema,
} from '@cork-ember/core/contract/schemas.ts';
import type { Instrument } from '@cork-ember/core/observation/instrument.ts';
import { nextHandsMoment } from '@cork-ember/core/runsheet/plan/hands.ts';
import type { InstrumentQuantity } from '@cork-ember/core/observation/instrument.ts';
import type { ShopClock } from '../clock/shopClock.ts';
import { writeDocument } from '../documents/document.ts';
import { labelOf, labelsPdf, labelSvg, type Label } from '../documents/labels.ts';
import { labelSheet } from '../documents/labelSheet.ts';
import { openApiDocument } from '../openapi.ts';
import type { CopyKeeper } from '../services/copyKeeper.ts';
import { ProblemError } from '../problems.ts';
import { PAPERS, type PaperId } from '../record/seal.ts';
import type { JobFiles } from '../services/jobFile.ts';
import type { Access } from '../services/access.ts';
import type { Bays } from '../services/bays.ts';
import type { Programmes } from '../services/programmes.ts';
import type { Customers } from '../services/customers.ts';
import type { Devices } from '../services/devices.ts';
import type { AppendRequest, Entries } from '../services/entries.ts';
import type { Intake } from '../services/intake.ts';
import type { Jobs } from '../services/jobs.ts';
import type { Learning } from '../services/learning.ts';
import type { Ledger } from '../services/ledger.ts';
import type { Since } from '../services/jobs.ts';
import type { Delivery, IntakeRequest } from '../services/opening.ts';
import type { Probes } from '../services/probes.ts';
import type { Readings } from '../services/readings.ts';
import type { Photos } from '../services/photos.ts';
import type { Sealing } from '../services/sealing.ts';
import type { ShopSettings } from '../services/shop.ts';
import type { Machines } from '../services/machines.ts';
import type { Shelf } from '../services/shelf.ts';
import type { Stock } from '../services/stock.ts';
import type { Stream } from '../services/stream.ts';
import { validated } from '../validate.ts';
import { assertMay } from '../access/gate.ts';
import { listensBy } from '../access/callers.ts';
import { accessRoutes } from './access.ts';
import { bayRoutes } from './bays.ts';
import { customerRoutes } from './customers.ts';
import { deviceRoutes } from './devices.ts';
import { ledgerRoutes } from './ledger.ts';
import { originOf } from './origin.ts';
import { machineRoutes } from './machines.ts';
import { shelfRoutes } from './shelf.ts';
import { shopRoutes } from './shop.ts';
import { streamHandler } from './stream.ts';

export interface Services {
  readonly access: Access;
  readonly clock: ShopClock;
  readonly jobs: Jobs;
  readonly entries: Entries;
  readonly intake: Intake;
  readonly ledger: Ledger;
  readonly learning: Learning;
  readonly shelf: Shelf;
  readonly machines: Machines;
  readonly stream: Stream;
  readonly settings: ShopSettings;
  readonly photos: Photos;
  readonly customers: Customers;
  readonly stock: Stock;
  readonly sealing: Sealing;
  readonly files: JobFiles;
  readonly instruments: readonly Instrument[];
  readonly devices: Devices;
  readonly bays: Bays;
  readonly programmes: Programmes;
  readonly probes: Probes;
  readonly readings: Readings;
  readonly copies: CopyKeeper;
  /** Where it is found on its network; none where it listens to this machine alone. */
  readonly address: () => string | undefined;
}

const MOST_PHOTO = '12mb';

function param(request: Request, name: string): string {
  const value = request.params[name];
  return typeof value === 'string' ? value : '';
}

interface ClockChange {
  readonly pace?: Pace;
  readonly jump?: string;
  readonly to?: number;
  readonly follow?: true;
}

/** @throws ProblemError where the machine's clock lies before what was recorded */
function followMachine(clock: ShopClock, last: number): void {
  try {
    clock.follow(last);
  } catch (error) {
    if (error instanceof RangeError) throw new ProblemError('refused', error.message);
    throw error;
  }
}

function clockRoutes(router: Router, { access, clock, jobs, stream }: Services): void {
  router.get('/clock', (_request, response) => void response.json(clock.answer()));
  router.post('/clock', async (request, response) => {
    const { pace, jump, to, follow } = validated<ClockChange>(clockSchema, request.body);
    if (follow) {
      await assertMay(request, 'changeShop', access);
      followMachine(clock, await jobs.lastMoment());
    } else if (!clock.isPaced)
      throw new ProblemError('refused', 'This shop runs on real time; only the demo’s clock can be paced.');
    if (pace !== undefined) clock.setPace(pace);
    if (to !== undefined) {
      if (to < clock.now())
        throw new ProblemError('bad-input', 'The shop clock cannot go back; give a later moment.');
      clock.jumpTo(to);
    }
    if (jump !== undefined) {
      const open = await jobs.openJobs();
      const moment = nextHandsMoment(
        open.map((job) => job.state),
        clock.now(),
      );
      if (moment === undefined)
        throw new ProblemError('refused', 'Every job waits for hands already; there is nothing to jump to.');
      clock.jumpTo(moment);
    }
    stream.tell({ kind: 'clock', clock: clock.answer() });
    response.json(clock.answer());
  });
}

function jobRoutes(router: Router, services: Services): void {
  const { access, jobs, entries, intake, photos } = services;
  router.get('/bench', async (_request, response) => void response.json(await jobs.picture()));
  router.get('/jobs', async (_request, response) => {
    response.type('json').send(await jobs.outlines());
  });
  router.post('/jobs', async (request, response) => {
    response.status(201).json(await intake.accept(validated<IntakeRequest>(intakeSchema, request.body)));
  });
  router.post('/jobs/since', async (request, response) => {
    const { known } = validated<Since>(sinceSchema, request.body);
    response.json(await jobs.since(new Map(Object.entries(known))));
  });
  router.post('/deliveries', async (request, response) => {
    const { by, batteries } = validated<Delivery>(deliverySchema, request.body);
    response.status(201).json(await intake.acceptAll(batteries.map((one) => ({ ...one, by }))));
  });
  router.get(
    '/jobs/:id',
    async (request, response) => void response.json(await jobs.answer(param(request, 'id'))),
  );
  router.post('/jobs/:id/events', async (request, response) => {
    const entry = validated<AppendRequest>(appendSchema, request.body);
    await assertMay(request, rightOfEntry(entry.entry), access);
    response.status(201).json(await entries.append(param(request, 'id'), entry));
  });
  router.get('/quarantine', async (_request, response) => void response.json(await jobs.quarantined()));
  // The picture first, then the entry that names it: an entry never names a picture that is not there.
  router.post('/jobs/:id/photos', raw({ type: 'image/*', limit: MOST_PHOTO }), async (request, response) => {
    const id = param(request, 'id');
    await jobs.job(id);
    if (!Buffer.isBuffer(request.body))
      throw new ProblemError('bad-input', 'Photo: send a picture of at most 12 MB.');
    response.status(201).json({ photo: await photos.keep(id, request.body, keyIn(request)) });
  });
  router.get('/jobs/:id/photos/:photo', async (request, response) => {
    const bytes = await photos.bytes(param(request, 'id'), param(request, 'photo'));
    response.type('image/jpeg').set('cache-control', 'private, max-age=3600').send(bytes);
  });
  for (const paper of PAPERS)
    router.get(`/jobs/:id/${paper}.pdf`, (request, response) =>
      sendPaper(paper, request, response, services),
    );
  router.get(
    '/check/:code',
    async (request, response) => void response.json(await services.sealing.check(param(request, 'code'))),
  );
}

/** Id a client gives its picture; none without a word. @throws ProblemError for no id */
function keyIn({ query }: Request): string | undefined {
  return query['key'] === undefined ? undefined : validated<string>(photoKeySchema, query['key']);
}

/** Which issue of the papers is asked for; the newest without a word. @throws ProblemError for no number */
function issueIn({ query }: Request): number | undefined {
  if (query['issue'] === undefined) return undefined;
  return validated<number>(issueSchema, query['issue']);
}

async function sendPaper(
  paper: PaperId,
  request: Request,
  response: Response,
  { sealing, settings, photos, address }: Services,
): Promise<void> {
  const job = param(request, 'id');
  const { seal, latest, content } = await sealing.paper(job, paper, issueIn(request));
  const stamp = {
    issue: seal.issue,
    code: seal.code,
    url: `${originOf(request, address())}/check/${seal.code}`,
    ...(latest.issue === seal.issue ? {} : { replacedBy: latest.issue }),
  };
  const pdf = await writeDocument(content, seal.at, settings.shop.region, stamp, (photo) =>
    photos.ifKept(job, photo),
  );
  const name = paper === 'certificate' && !content.isGood ? 'note' : paper;
  const issue = seal.issue > 1 ? `-${seal.issue}` : '';
  response.attachment(`${content.tag}-${name}${issue}.pdf`).type('application/pdf').send(pdf);
}

/** Tags of these batteries, as they stand now. @throws ProblemError naming the first that is not known */
async function labelsFor(tags: readonly string[], { ledger, settings }: Services): Promise<Label[]> {
  return Promise.all(
    tags.map(async (tag) => {
      const { battery, type, last, shelved } = await ledger.labelled(tag);
      return labelOf(battery, type, last, shelved, settings.shop.hours.timeZone);
    }),
  );
}

/** The whole shop as one file, to be put elsewhere. */
function copyRoute(router: Router, { copies, clock }: Services): void {
  router.get('/copy', async (_request, response) => {
    const day = new Date(clock.now()).toISOString().slice(0, 10);
    await copies.lend(
      (path) =>
        new Promise((resolve, reject) => {
          response.download(path, `cork-ember-${day}.sqlite`, (error) => (error ? reject(error) : resolve()));
        }),
    );
  });
}

const MOST_LABELS = 270;

function labelRoutes(router: Router, services: Services): void {
  const tagIn = (request: Request): string => param(request, 'tag').trim().toUpperCase();
  router.get('/batteries/:tag/label.svg', async (request, response) => {
    const [label] = await labelsFor([tagIn(request)], services);
    if (label)
      response
        .attachment(`${label.tag}.svg`)
        .type('image/svg+xml')
        .send(await labelSvg(label, services.settings.shop.region));
  });
  router.get('/batteries/:tag/label.pdf', async (request, response) => {
    const labels = await labelsFor([tagIn(request)], services);
    response
      .attachment(`${tagIn(request)}.pdf`)
      .type('application/pdf')
      .send(await labelsPdf(labels, services.settings.shop.region));
  });
  router.get('/labels.pdf', async (request, response) => {
    const tags = String(request.query['tags'] ?? '')
      .split(',')
      .map((tag) => tag.trim().toUpperCase())
      .filter(Boolean);
    if (tags.length === 0 || tags.length > MOST_LABELS)
      throw new ProblemError('bad-input', `Tags: name 1 to ${MOST_LABELS}, separated by commas.`);
    response
      .attachment('tags.pdf')
      .type('application/pdf')
      .send(
        await labelSheet({ labels: await labelsFor(tags, services), region: services.settings.shop.region }),
      );
  });
}

function instrumentRoutes(router: Router, { instruments, jobs }: Services): void {
  router.get('/instruments', async (_request, response) => {
    const all = await Promise.all(instruments.map((instrument) => instrument.identify()));
    response.json(all.filter(({ quantities }) => quantities.length > 0));
  });
  router.post('/instruments/:id/read', async (request, response) => {
    const { job, quantity } = validated<{ job: string; quantity: InstrumentQuantity }>(
      instrumentReadSchema,
      request.body,
    );
    await jobs.job(job);
    for (const instrument of instruments) {
      const identity = await instrument.identify();
      if (identity.id !== param(request, 'id')) continue;
      response.json({ ...(await instrument.read(quantity, job)), instrument: identity.name });
      return;
    }
    throw new ProblemError('not-found', `There is no instrument “${param(request, 'id')}” on this bench.`);
  });
}

export function apiRoutes(services: Services): Router {
  const router = Router();
  router.get('/openapi.json', (_request, response) => void response.json(openApiDocument()));
  router.get('/stream', streamHandler(services.stream, listensBy(services.access)));
  accessRoutes(router, services);
  customerRoutes(router, services);
  clockRoutes(router, services);
  jobRoutes(router, services);
  shopRoutes(router, services.settings, services.stock, services.jobs);
  labelRoutes(router, services);
  copyRoute(router, services);
  ledgerRoutes(router, services);
  shelfRoutes(router, services.shelf);
  machineRoutes(router, services);
  instrumentRoutes(router, services);
  deviceRoutes(router, services);
  bayRoutes(router, services);
  return router;
}
