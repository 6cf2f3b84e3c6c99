/** What ended jobs teach, as it was drawn from their records: it follows from them, and can be drawn anew at any time. */
import { QueryTypes } from 'sequelize';
import type { Entered } from '@cork-ember/core/adapters/lessonFromJob.ts';
import type { KeptLesson } from '@cork-ember/core/learning/learned.ts';
import { LESSON_VERSION, type Lesson } from '@cork-ember/core/learning/lesson.ts';
import type { Database } from './database.ts';

/** Ended jobs nothing was drawn from yet, or by the ways of before. */
const UNDRAWN = `FROM findings LEFT JOIN lessons ON lessons.job = findings.job AND lessons.version = ${LESSON_VERSION}
                WHERE lessons.job IS NULL`;

export class LessonStore {
  private readonly database: Database;

  constructor(database: Database) {
    this.database = database;
  }

  /** The job to draw from next, the one that ended last first; undefined where all are drawn. */
  async next(): Promise<string | undefined> {
    const [row] = await this.database.sequelize.query<{ job: string }>(
      `SELECT findings.job AS job ${UNDRAWN} ORDER BY findings.endedAt DESC LIMIT 1`,
      { type: QueryTypes.SELECT },
    );
    return row?.job;
  }

  async left(): Promise<number> {
    const [row] = await this.database.sequelize.query<{ count: number }>(
      `SELECT COUNT(*) AS count ${UNDRAWN}`,
      {
        type: QueryTypes.SELECT,
      },
    );
    return row?.count ?? 0;
  }

  /** Keeps a lesson, or that there is none, of a job that is still ended as it was. */
  async write(job: string, lesson: Lesson | null): Promise<void> {
    const { sequelize, models } = this.database;
    await sequelize.transaction(async (transaction) => {
      if ((await models.findings.count({ where: { job }, transaction })) === 0) return;
      await models.lessons.upsert({ job, version: LESSON_VERSION, lesson }, { transaction });
    });
  }

  async all(): Promise<KeptLesson[]> {
    const rows = await this.database.sequelize.query<{ lesson: string; isImported: number }>(
      `SELECT lessons.lesson AS lesson, jobs.isImported AS isImported
         FROM lessons JOIN jobs ON jobs.id = lessons.job
        WHERE lessons.version = ${LESSON_VERSION} AND json_type(lessons.lesson) = 'object'`,
      { type: QueryTypes.SELECT },
    );
    return rows.map(({ lesson, isImported }) => ({
      lesson: JSON.parse(lesson) as Lesson,
      isImported: isImported !== 0,
    }));
  }

  /** Who entered something on another battery between two moments. */
  async beside(job: string, from: number, to: number): Promise<Entered[]> {
    return this.database.sequelize.query<Entered>(
      'SELECT "by", at FROM job_events WHERE at BETWEEN $from AND $to AND job <> $job ORDER BY at',
      { type: QueryTypes.SELECT, bind: { job, from, to } },
    );
  }
}
