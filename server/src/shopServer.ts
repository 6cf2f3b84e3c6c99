/** Puts a shop together from its file, and takes it down again without losing anything. */
import { subMonths } from 'date-fns';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { hostname } from 'node:os';
import type { Logger } from 'pino';
import { GENERIC_TYPES } from '@cork-ember/core/battery/genericTypes.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { LISTED } from '@cork-ember/core/demo/catalogue.ts';
import { createApp } from './app.ts';
import { ShopClock } from './clock/shopClock.ts';
import { hiddenIn } from './demo/hidden.ts';
import { READINGS_MONTHS } from '@cork-ember/core/devices/samples.ts';
import { realNow } from './clock/realTime.ts';
import { DEMO_PINS, seedPeople } from './demo/people.ts';
import { Access } from './services/access.ts';
import { AccessStore } from './store/accessStore.ts';
import { Calendar } from './demo/calendar.ts';
import { seedMachines } from './demo/machines.ts';
import { seedShelf } from './demo/shelf.ts';
import { seedStock } from './demo/stock.ts';
import { seedDemo } from './demo/seed.ts';
import { SKERRY, demoMoment } from './demo/skerry.ts';
import { knownNames } from './hosts.ts';
import { addresses, isOnNetwork } from './onNetwork.ts';
import type { Trust } from './routes/trust.ts';
import type { HttpsOptions } from './tls/httpsKeys.ts';
import { KEEP_ALIVE_MS, openHttps, type HttpsServer } from './tls/httpsServer.ts';
import { batteryAt } from '@cork-ember/core/adapters/benchBattery.ts';
import { BayInstrument } from './instruments/bayInstrument.ts';
import { simulatedBench } from './instruments/simulatedInstrument.ts';
import type { Services } from './routes/api.ts';
import { CopyKeeper } from './services/copyKeeper.ts';
import { Entries } from './services/entries.ts';
import { Intake } from './services/intake.ts';
import { Jobs } from './services/jobs.ts';
import { Learning } from './services/learning.ts';
import { Ledger } from './services/ledger.ts';
import { Places } from './services/places.ts';
import { Queue } from './services/queue.ts';
import { JobFiles } from './services/jobFile.ts';
import { rebuild } from './services/projections.ts';
import { SimulatedDevices } from './devices/simulatedDevices.ts';
import { AlarmPost } from './services/alarmPost.ts';
import { BaySheets } from './services/baySheet.ts';
import { Bays } from './services/bays.ts';
import { Programmes } from './services/programmes.ts';
import { Probes } from './services/probes.ts';
import { Readings } from './services/readings.ts';
import { Customers } from './services/customers.ts';
import { Devices } from './services/devices.ts';
import { Photos } from './services/photos.ts';
import { Sealing } from './services/sealing.ts';
import { loadShop, plainShop, ShopSettings } from './services/shop.ts';
import { Machines } from './services/machines.ts';
import { Shelf } from './services/shelf.ts';
import { Stock } from './services/stock.ts';
import { Stream } from './services/stream.ts';
import { openDatabase, type Database } from './store/database.ts';
import { JobStore } from './store/jobStore.ts';
import { BatteryList } from './store/batteryList.ts';
import { LessonStore } from './store/lessonStore.ts';
import { Lists } from './store/lists.ts';
import { SealStore } from './store/sealStore.ts';
import { SettingStore } from './store/settingStore.ts';
import { CustomerStore } from './store/customerStore.ts';
import { FeedStore } from './store/feedStore.ts';
import { MachineStore } from './store/machineStore.ts';
import { ShelfStore } from './store/shelfStore.ts';

export interface ShopOptions {
  readonly file: string;
  readonly timeZone: string;
  readonly isDemo: boolean;
  /** Shop time the demo begins at, ms; today in the afternoon without it. */
  readonly demoStart?: number;
  /** Of an own shop to practise or test on: its clock begins here and can be paced, ms. */
  readonly clockStart?: number;
  readonly webRoot?: string;
  /** Folders that get a copy of it each night. */
  readonly copiesTo?: readonly string[];
  /** Names it answers to on its network, beside this machine's own. */
  readonly names?: readonly string[];
  /** Whether plain http answers everything over the network beside https; a demo's does. */
  readonly isPlainOpen?: boolean;
  readonly log: Logger;
  /** Real time, ms: what waits and locks go by. */
  readonly now?: () => number;
}

/** What the services rest on; no route reaches past them. */
interface Stores {
  readonly database: Database;
  readonly store: JobStore;
  readonly seals: SealStore;
  readonly lists: Lists;
  readonly batteries: BatteryList;
}

export interface ShopServer {
  readonly services: Services & Stores;
  readonly server: Server;
  /** @returns the port it listens on */
  listen(port: number, host: string): Promise<number>;
  /**
   * Answers https too.
   * @throws HttpsError where files that were named are not there
   */
  listenHttps(port: number, host: string, keys: Omit<HttpsOptions, 'names'>): Promise<Trust>;
  close(): Promise<void>;
}

const DEMO_START = 'demoStart';
/** The moment up to which a demo's clock has been shown, and then some. */
const DEMO_SEEN = 'demoSeen';
const SEEN_EVERY_MS = 2000;

/** Writes down, ahead of time, what the demo's clock will show: killed at any moment, it is never turned back. */
function keepSeen(settings: SettingStore, clock: ShopClock): () => void {
  const write = (): void => {
    const { shopMs, pace } = clock.answer();
    settings.write(DEMO_SEEN, shopMs + 2 * SEEN_EVERY_MS * pace).catch(() => undefined);
  };
  const timer = setInterval(write, SEEN_EVERY_MS);
  timer.unref();
  return () => clearInterval(timer);
}

const LOOK_EVERY_MS = 5000;

/** Tells every page when the machine's clock goes away from the shop's, and when it is back. */
function watchClock({ clock, stream }: Services): () => void {
  let wasApart = false;
  const timer = setInterval(() => {
    const isApart = clock.apart() !== undefined;
    if (isApart !== wasApart) stream.tell({ kind: 'clock', clock: clock.answer() });
    wasApart = isApart;
  }, LOOK_EVERY_MS);
  timer.unref();
  return () => clearInterval(timer);
}

/** A demo keeps its own beginning, so that a restart finds the same afternoon or a later one. */
async function openClock(settings: SettingStore, store: JobStore, options: ShopOptions): Promise<ShopClock> {
  if (!options.isDemo) return new ShopClock(options.clockStart);
  const known = await settings.read<number>(DEMO_START);
  if (known === undefined) {
    const start = options.demoStart ?? demoMoment(new ShopClock().now(), options.timeZone);
    await settings.write(DEMO_START, start);
    return new ShopClock(start);
  }
  const seen = (await settings.read<number>(DEMO_SEEN)) ?? known;
  return new ShopClock(Math.max(known, seen, await store.lastMoment()));
}

/** Stands in a demo's file while its story is written: whoever finds it there writes it anew. */
const SEEDING = 'seeding';
const FILLED_TABLES = [
  'people',
  'tablets',
  'sessions',
  'audit',
  'claims',
  'shelf_events',
  'shelf',
  'machines',
  'seals',
  'findings',
  'lessons',
  'owners',
  'actors',
  'requests',
  'job_events',
  'photos',
  'stock_moves',
  'shop_changes',
  'jobs',
  'batteries',
  'settings',
] as const;

/** A demo that was killed while it was made is made again from nothing. */
async function beginAnew(database: Database, settings: SettingStore): Promise<void> {
  if ((await settings.read<boolean>(SEEDING)) !== true) return;
  const tables = database.sequelize.getQueryInterface();
  // The mark goes last: killed in between, it is begun anew once more.
  for (const table of FILLED_TABLES) await tables.bulkDelete(table, {});
}

/** Whom the shop knows; a demo's people come with their PINs. */
async function openAccess(
  store: AccessStore,
  settings: SettingStore,
  clock: ShopClock,
  { isDemo, now = realNow }: ShopOptions,
  isNew: boolean,
): Promise<Access> {
  const access = new Access({
    store,
    settings,
    isDemo,
    demoPins: isDemo ? DEMO_PINS : new Map(),
    shopNow: () => clock.now(),
    now,
  });
  await access.load();
  if (isDemo && isNew) await seedPeople(access.people);
  return access;
}

async function openServices(
  database: Database,
  options: ShopOptions,
): Promise<Omit<Services, 'address'> & Stores> {
  const settings = new SettingStore(database);
  const store = new JobStore(database);
  const stream = new Stream();
  if (options.isDemo) await beginAnew(database, settings);
  const isNew = (await settings.read<Shop>('shop')) === undefined;
  if (options.isDemo && isNew) await settings.write(SEEDING, true);
  const kept = await loadShop(
    settings,
    options.isDemo
      ? { ...SKERRY, hours: { ...SKERRY.hours, timeZone: options.timeZone } }
      : plainShop(options.timeZone),
    options.isDemo ? LISTED : GENERIC_TYPES,
  );
  const clock = await openClock(settings, store, options);
  if (options.isDemo && isNew) await seedDemo(store, kept.shop, clock.now());
  const access = await openAccess(new AccessStore(database), settings, clock, options, isNew);
  const shopSettings = new ShopSettings(kept, database, clock, stream);
  const stock = new Stock(database, shopSettings, clock, stream);
  if (options.isDemo && isNew) {
    await seedStock(database, clock.now());
    const calendar = new Calendar(kept.shop, clock.now());
    await seedMachines(new MachineStore(database), kept.shop.tagLetters, clock.now());
    await seedShelf(new ShelfStore(database), (ago) => calendar.month(ago), clock.now());
    await settings.write(SEEDING, false);
  }
  const photos = new Photos(database);
  const [seals, lists, batteries] = [new SealStore(database), new Lists(database), new BatteryList(database)];
  const shelf = new ShelfStore(database);
  const sealing = new Sealing(store, seals, shopSettings, photos);
  const now = clock.now();
  // The demo's past was sealed as it went along; a shop's, on the day it came to have seals.
  await sealing.sealPast(
    ({ endedAt = now }) => (options.isDemo ? endedAt : now),
    (job, why) => options.log.warn({ job }, why),
  );
  if (!(await lists.isListedWhole())) {
    const { mended } = await rebuild(store, lists);
    options.log.warn({ mended }, 'jobs were listed otherwise than their record says');
  }
  const learning = new Learning({
    store,
    lessons: new LessonStore(database),
    settings: shopSettings,
    stream,
    log: options.log,
  });
  await learning.load();
  const jobs = new Jobs(store, seals, clock);
  const places = new Places(store, shopSettings);
  const shared = { jobs, store, places, clock, stream, queue: new Queue() };
  const simulated = options.isDemo
    ? await SimulatedDevices.open(
        new Set(
          (kept.shop.devices ?? []).flatMap(({ place }) => (place.kind === 'simulated' ? [place.bay] : [])),
        ),
        clock,
      )
    : undefined;
  const devices = new Devices(shopSettings, simulated);
  const readings = new Readings(database.file);
  const probes = new Probes({ settings: shopSettings, keys: settings, store, readings, stream, clock });
  const entries = new Entries({ ...shared, sealing });
  const sheets = new BaySheets({ jobs, entries, settings, clock });
  const bays = new Bays({
    jobs,
    devices,
    readings,
    clock,
    sheets,
    stream,
    alarms: new AlarmPost({ settings: shopSettings, now: () => clock.now(), log: options.log }),
    log: options.log,
    ...(simulated
      ? {
          wire: (bay, state) => {
            const cells = batteryAt(state, clock.now(), hiddenIn(state));
            if (cells) simulated.wire(bay, cells);
          },
        }
      : {}),
  });
  await sheets.begin();
  const programmes = new Programmes({
    bays,
    sheets,
    jobs,
    devices,
    settings,
    clock,
    log: options.log,
  });
  await programmes.begin();
  // In the demo the bench’s meters know what is hidden in each battery; a bay’s own devices stand on batteries of their own.
  const instruments = options.isDemo
    ? simulatedBench({ job: async (id) => (await jobs.job(id)).state, hiddenIn }, clock)
    : [new BayInstrument({ jobs, devices, bays, probes, clock })];
  return {
    access,
    clock,
    jobs,
    entries,
    intake: new Intake({ ...shared, settings: shopSettings }),
    database,
    store,
    seals,
    lists,
    batteries,
    learning,
    ledger: new Ledger({ store, lists, batteries, shelf, settings: shopSettings, clock }),
    shelf: new Shelf({ ...shared, settings: shopSettings, shelf, feeds: new FeedStore(database) }),
    machines: new Machines({ ...shared, machines: new MachineStore(database), settings: shopSettings }),
    stream,
    settings: shopSettings,
    photos,
    customers: new Customers({
      ...shared,
      store: new CustomerStore(database),
      shelf,
      settings: shopSettings,
      audit: access.audit,
    }),
    stock,
    sealing,
    files: new JobFiles(store, seals, photos, sealing, clock),
    instruments,
    devices,
    bays,
    programmes,
    probes,
    readings,
    copies: new CopyKeeper(database, options.copiesTo ?? [], options.log),
  };
}

export async function openShop(options: ShopOptions): Promise<ShopServer> {
  const database = await openDatabase(options.file);
  let address: string | undefined;
  const services: Services & Stores = { ...(await openServices(database, options)), address: () => address };
  const { log, webRoot } = options;
  const names = knownNames(hostname(), options.names ?? []);
  let https: HttpsServer | undefined;
  const app = createApp(services, {
    log,
    names,
    trust: () => https?.trust(),
    // A demo is there to be tried from any tablet.
    isPlainOpen: options.isPlainOpen ?? options.isDemo,
    health: {
      database,
      copies: services.copies,
      clock: services.clock,
      now: options.now ?? realNow,
      certificate: () => https && { endsAt: https.endsAt(), isOwn: https.trust().authority !== undefined },
    },
    ...(webRoot === undefined ? {} : { webRoot }),
  });
  const server = createServer({ keepAliveTimeout: KEEP_ALIVE_MS }, app);
  services.copies.begin();
  const { settings, clock, readings } = services;
  readings.beginAging(() =>
    subMonths(clock.now(), settings.shop.readingsMonths ?? READINGS_MONTHS).getTime(),
  );
  services.learning.begin();
  const ends = [
    ...(options.isDemo ? [keepSeen(new SettingStore(database), services.clock)] : []),
    watchClock(services),
  ];
  return {
    services,
    server,
    listen: (port, host) =>
      new Promise((resolve, reject) => {
        server.once('error', reject);
        server.listen(port, host, () => {
          const taken = (server.address() as AddressInfo).port;
          const [first] = isOnNetwork(host) ? addresses() : [];
          address = first === undefined ? undefined : `http://${first}:${taken}`;
          resolve(taken);
        });
      }),
    listenHttps: async (port, host, keys) => {
      https = await openHttps({ ...keys, names }, app, port, host, (error) =>
        log.error({ err: error }, 'the certificate could not be renewed'),
      );
      return https.trust();
    },
    close: async () => {
      services.copies.end();
      await services.programmes.end();
      await services.bays.end();
      await services.devices.close();
      await services.readings.close();
      await services.learning.end();
      for (const end of ends) end();
      await https?.close();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await database.close();
    },
  };
}
