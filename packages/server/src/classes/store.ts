import {
  type DeviceRole,
  type FollowSheet,
  type Language,
  languageOf,
  type OtherRecipes,
  serverErrors,
} from '@viaticum/contract';
import type { ClassState } from '@viaticum/core/class';
import type { FastifyBaseLogger } from 'fastify';
import { measuresOf } from '../auth/measures.js';
import { type Bus, EVERYWHERE } from '../bus/bus.js';
import { ClassEntity } from '../db/entities.js';
import { newest } from '../db/page.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import type { Disk } from '../guard/disk.js';
import type { LessonStore } from '../lessons/store.js';
import type { StagePicture, StagePictures } from '../stage-pictures/store.js';
import { storedEvents } from './events.js';
import { classHubs } from './hub/hubs.js';
import { classOpener } from './opener.js';
import { recipesForKits } from './recipes.js';
import { deviceToken, isDevice, roundsOf } from './tokens.js';
import { workedOut } from './worked-out.js';

const PAGE = 50;

type Parts = {
  database: Database;
  lessons: LessonStore;
  bus: Bus;
  stages: StagePictures;
  disk: Disk;
  log: FastifyBaseLogger;
};

/** Classes: planning and opening one, and the hubs of those that somebody is connected to. */
export function classStore({ database, lessons, bus, stages, disk, log }: Parts) {
  const { source } = database;
  const recipes = recipesForKits();
  const plans = workedOut(lessons);
  const events = storedEvents(database);
  const hubs = classHubs({ database, lessons, plans, bus, disk, log });

  const byCode = async (code: string): Promise<ClassEntity> => {
    const found = await source.manager.findOneBy(ClassEntity, { code });
    if (!found) throw new ApiFault(serverErrors.codeUnknown);
    return found;
  };
  const owned = async (ownerId: string, code: string): Promise<ClassEntity> => {
    const found = await source.manager.findOneBy(ClassEntity, { code, ownerId });
    if (!found) throw notFound('class of yours');
    return found;
  };

  const opener = classOpener({ source, lessons, stages, plans, bus, hubs, owned });

  return {
    byCode,
    owned,
    ...opener,

    /** The newest fifty, or those before the class with this id. */
    list(ownerId: string, before?: string): Promise<ClassEntity[]> {
      const query = source.manager.createQueryBuilder(ClassEntity, 'class').where('class.owner_id = :ownerId', { ownerId });
      return newest(query, { table: 'class', property: 'openedAt', column: 'opened_at', most: PAGE, before });
    },

    async sheet(code: string): Promise<FollowSheet> {
      const { revisionId, language } = await byCode(code);
      return (await plans.sheet(revisionId, languageOf(language))).sheet;
    },
    /** How an instructor measures. */
    measures: (ownerId: string) => measuresOf(source.manager, ownerId),
    sheetOf: plans.sheet,
    forecast: plans.forecast,
    /** The canvas after a step of a revision that is taught or painted alone. */
    stage: (revisionId: number, stepId: string): Promise<StagePicture> =>
      stages.read(revisionId, () => lessons.revision(revisionId), stepId),

    /** Recipes for a student of this class who lacks some tubes; `caller` is whose phone asks. */
    async recipesWithout(code: string, tubes: readonly string[], caller: string): Promise<OtherRecipes> {
      const { revisionId } = await byCode(code);
      return recipes.without(revisionId, async () => (await lessons.revision(revisionId)).text, tubes, `${code} ${caller}`);
    },

    /** The text of the document that is taught. */
    lessonText: async (one: ClassEntity) => (await lessons.revision(one.revisionId)).text,

    /** All events of a class, as the JSON of a list. */
    eventsText: events.text,
    /** The state of a class as it is now: of its hub, or folded from its log. */
    async state(classId: string): Promise<ClassState> {
      return (await hubs.open(classId))?.log.state ?? events.state(classId);
    },

    /** At which of the machine's addresses the phones of a class come in; those that are opened after it begin with the same. */
    async setAddress(one: ClassEntity, address: string): Promise<ClassEntity> {
      await source.manager.update(ClassEntity, { id: one.id }, { address });
      return { ...one, address };
    },
    async setLanguage(one: ClassEntity, language: Language): Promise<ClassEntity> {
      await source.manager.update(ClassEntity, { id: one.id }, { language });
      return { ...one, language };
    },
    /** The link or key of a kind of device, as it is now. */
    deviceKey: (one: ClassEntity, role: DeviceRole): string => deviceToken(one.secret, role, roundsOf(one)),
    isDevice: (one: ClassEntity, role: DeviceRole, key: string | undefined): boolean =>
      isDevice(one.secret, role, roundsOf(one), key),
    /** Makes the key of a kind of device anew; who came in with the former is sent away. */
    async renewKey(one: ClassEntity, role: DeviceRole): Promise<ClassEntity> {
      const rounds = { ...roundsOf(one), [role]: (roundsOf(one)[role] ?? 0) + 1 };
      const deviceRound = JSON.stringify(rounds);
      await source.manager.update(ClassEntity, { id: one.id }, { deviceRound });
      (await hubs.open(one.id))?.recalled(role);
      return { ...one, deviceRound };
    },
    /** A session was ended, here or through another server. */
    async signedOut(session: string): Promise<void> {
      bus.publish(EVERYWHERE, { type: 'signedOut', session });
      await hubs.endSession(session);
    },

    hub: hubs.of,
    forget: hubs.forget,
    sweep: hubs.sweep,
    get hubsOpen() {
      return hubs.count;
    },

    async close(): Promise<void> {
      await Promise.all([recipes.close(), plans.close(), stages.close()]);
      await hubs.close();
    },
  };
}
export type ClassStore = ReturnType<typeof classStore>;
