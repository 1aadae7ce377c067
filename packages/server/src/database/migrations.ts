import type { Knex } from 'knex';

/** One step of the schema; steps are only ever added, never changed. */
interface Step {
  readonly name: string;
  readonly up: (knex: Knex) => Promise<void>;
}

const STEPS: readonly Step[] = [
  {
    name: '001-first',
    up: async (knex) => {
      await knex.schema.createTable('jobs', (table) => {
        table.uuid('id').primary();
        table.text('name').notNullable();
        table.timestamp('created_at').notNullable().defaultTo(knex.fn.now());
      });
      await knex.schema.createTable('pictures', (table) => {
        table.uuid('id').primary();
        table.uuid('job_id').notNullable().references('jobs.id').onDelete('CASCADE').index();
        table.text('name').notNullable();
        table.text('nature').notNullable();
        table.text('state').notNullable();
        table.text('problem');
        table.text('format').notNullable();
        table.text('sha256').notNullable().index();
        table.bigInteger('size_bytes').notNullable();
        table.integer('width').notNullable();
        table.integer('height').notNullable();
        table.integer('depth').notNullable();
        table.integer('channels').notNullable();
        table.double('density');
        table.jsonb('capture').notNullable();
        table.integer('finest_level');
        table.text('examined').notNullable().defaultTo('none');
        table.jsonb('examine_request');
        table.integer('revision').notNullable().defaultTo(0);
        table.integer('next_fault').notNullable().defaultTo(1);
        table.timestamp('created_at').notNullable().defaultTo(knex.fn.now());
        table.specificType('position', 'bigserial').notNullable();
      });
      await knex.schema.createTable('faults', (table) => {
        table.uuid('picture_id').notNullable().references('pictures.id').onDelete('CASCADE');
        table.text('id').notNullable();
        table.integer('number').notNullable();
        table.text('kind').notNullable();
        table.text('polarity').notNullable();
        for (const column of ['x', 'y', 'r', 'strength', 'softness', 'confidence'])
          table.double(column).notNullable();
        table.text('judgement').notNullable().defaultTo('open');
        table.primary(['picture_id', 'id']);
      });
      await knex.schema.createTable('mends', (table) => {
        table.uuid('picture_id').notNullable().references('pictures.id').onDelete('CASCADE');
        table.text('id').notNullable();
        table.integer('position').notNullable();
        table.text('fault_id');
        table.jsonb('body').notNullable();
        table.primary(['picture_id', 'id']);
      });
      await knex.schema.createTable('history', (table) => {
        table.uuid('picture_id').notNullable().references('pictures.id').onDelete('CASCADE');
        table.integer('seq').notNullable();
        table.text('words').notNullable();
        table.jsonb('forward').notNullable();
        table.jsonb('inverse').notNullable();
        table.boolean('undone').notNullable().defaultTo(false);
        table.timestamp('at').notNullable().defaultTo(knex.fn.now());
        table.primary(['picture_id', 'seq']);
      });
      await knex.schema.createTable('deliveries', (table) => {
        table.uuid('id').primary();
        table.uuid('picture_id').notNullable().references('pictures.id').onDelete('CASCADE').index();
        table.jsonb('request').notNullable();
        table.text('state').notNullable();
        table.text('problem');
        table.text('file_name').notNullable();
        table.text('sha256').index();
        table.bigInteger('size_bytes');
        table.integer('mends').notNullable();
        table.jsonb('recipe').notNullable();
        table.timestamp('created_at').notNullable().defaultTo(knex.fn.now());
      });
    },
  },
  {
    name: '0002-transfer-curves',
    up: async (knex) => {
      await knex.schema.alterTable('pictures', (table) => {
        table.jsonb('transfer');
      });
    },
  },
  {
    name: '0003-measured-findings',
    up: async (knex) => {
      await knex.schema.createTable('examinations', (table) => {
        table.uuid('picture_id').primary().references('pictures.id').onDelete('CASCADE');
        table.text('finder').notNullable();
        table.integer('first_number').notNullable();
        table.jsonb('findings').notNullable();
        table.timestamp('at').notNullable().defaultTo(knex.fn.now());
      });
      await knex.schema.alterTable('faults', (table) => {
        table.jsonb('path');
      });
    },
  },
  {
    name: '0004-marked-and-set-aside',
    up: async (knex) => {
      await knex.schema.alterTable('faults', (table) => {
        table.jsonb('outline');
        table.double('tone');
        table.text('origin').notNullable().defaultTo('found');
        table.text('own_kind');
      });
      await knex.schema.alterTable('pictures', (table) => {
        table.boolean('set_aside').notNullable().defaultTo(false);
        table.text('checked').notNullable().defaultTo('none');
        table.jsonb('estimate');
      });
    },
  },
  {
    name: '0005-fences',
    up: async (knex) => {
      await knex.schema.createTable('fences', (table) => {
        table.uuid('picture_id').notNullable().references('pictures.id').onDelete('CASCADE');
        table.text('id').notNullable();
        table.integer('position').notNullable();
        table.jsonb('body').notNullable();
        table.primary(['picture_id', 'id']);
      });
    },
  },
  {
    name: '0006-series',
    up: async (knex) => {
      await knex.schema.alterTable('pictures', (table) => {
        table.text('camera');
        table.boolean('is_reference').notNullable().defaultTo(false);
      });
      await knex.schema.alterTable('faults', (table) => {
        table.integer('charted');
        table.jsonb('known');
      });
      await knex.schema.alterTable('deliveries', (table) => {
        table.text('piece').unique();
      });
      await knex.schema.createTable('charts', (table) => {
        table.uuid('id').primary();
        table.text('camera').notNullable().index();
        table.jsonb('document').notNullable();
        table.jsonb('pictures').notNullable();
        table.jsonb('verdicts').notNullable();
        table.timestamp('made_at').notNullable().defaultTo(knex.fn.now());
        table.text('opened_at');
        table.text('closed_at');
      });
      await knex.schema.createTable('runs', (table) => {
        table.uuid('id').primary();
        table.uuid('job_id').notNullable().references('jobs.id').onDelete('CASCADE').index();
        table.jsonb('request').notNullable();
        table.text('state').notNullable();
        table.timestamp('created_at').notNullable().defaultTo(knex.fn.now());
        table.timestamp('begun_at');
        table.timestamp('ended_at');
      });
      await knex.schema.createTable('run_pieces', (table) => {
        table.uuid('run_id').notNullable().references('runs.id').onDelete('CASCADE');
        table.integer('number').notNullable();
        table.integer('stage').notNullable();
        table.text('work').notNullable();
        table.uuid('picture_id').references('pictures.id').onDelete('CASCADE').index();
        /** For a chart: the camera. */
        table.text('subject');
        table.text('state').notNullable().defaultTo('waiting').index();
        table.integer('attempts').notNullable().defaultTo(0);
        table.jsonb('outcome').notNullable().defaultTo('{}');
        table.timestamp('begun_at');
        table.timestamp('ended_at');
        table.primary(['run_id', 'number']);
      });
      await knex.schema.createTable('routines', (table) => {
        table.uuid('id').primary();
        table.text('name').notNullable();
        table.jsonb('steps').notNullable();
        table.timestamp('created_at').notNullable().defaultTo(knex.fn.now());
      });
    },
  },
  {
    name: '0007-finish',
    up: async (knex) => {
      await knex.schema.createTable('finish_steps', (table) => {
        table.uuid('picture_id').notNullable().references('pictures.id').onDelete('CASCADE');
        table.text('id').notNullable();
        table.integer('position').notNullable();
        table.jsonb('body').notNullable();
        table.primary(['picture_id', 'id']);
      });
    },
  },
  {
    name: '0008-sensor-part',
    up: async (knex) => {
      await knex.schema.alterTable('pictures', (table) => {
        table.jsonb('sensor_part');
      });
    },
  },
  {
    name: '0009-nature-given',
    up: async (knex) => {
      await knex.schema.alterTable('pictures', (table) => {
        table.boolean('is_nature_given').notNullable().defaultTo(false);
      });
    },
  },
  {
    name: '0010-store-identity',
    up: async (knex) => {
      await knex.schema.createTable('store_identity', (table) => {
        table.boolean('is_only').primary().defaultTo(true).checkIn(['true']);
        table.uuid('id').notNullable();
      });
    },
  },
  {
    name: '0011-work-attempts',
    up: async (knex) => {
      await knex.schema.createTable('work_attempts', (table) => {
        table.text('kind').notNullable();
        table.text('id').notNullable();
        table.integer('failures').notNullable().defaultTo(0);
        table.double('suspicion').notNullable().defaultTo(0);
        table.uuid('server');
        table.primary(['kind', 'id']);
      });
    },
  },
  {
    // What lies in the bin is hidden from whoever asks for `jobs` and `pictures`; these views must be made anew whenever a
    // column is added to what they show.
    name: '0012-bin',
    up: async (knex) => {
      for (const name of ['jobs', 'pictures']) {
        await knex.schema.renameTable(name, `all_${name}`);
        await knex.schema.alterTable(`all_${name}`, (table) => {
          table.timestamp('binned_at').index();
        });
      }
      await knex.raw('create view jobs as select * from all_jobs where binned_at is null');
      await knex.raw(
        `create view pictures as select * from all_pictures where binned_at is null and exists (
           select from all_jobs where all_jobs.id = all_pictures.job_id and all_jobs.binned_at is null)`,
      );
    },
  },
  {
    name: '0013-work-failures',
    up: async (knex) => {
      await knex.schema.createTable('work_failures', (table) => {
        table.bigIncrements('number');
        table.text('kind').notNullable();
        table.text('id').notNullable();
        table.text('reason').notNullable();
        table.timestamp('at').notNullable().defaultTo(knex.fn.now()).index();
      });
    },
  },
  {
    name: '0014-people',
    up: async (knex) => {
      await knex.schema.createTable('people', (table) => {
        table.uuid('id').primary();
        table.text('name').notNullable();
        table.text('role').notNullable();
        table.text('password').notNullable();
        table.timestamp('created_at').notNullable().defaultTo(knex.fn.now());
      });
      await knex.raw('create unique index people_name on people (lower(name))');
      await knex.schema.createTable('invitations', (table) => {
        table.text('token').primary();
        table.text('name').notNullable();
        table.text('role').notNullable();
        table.timestamp('expires_at').notNullable();
      });
      // As the library that keeps sessions in PostgreSQL wants it.
      await knex.schema.createTable('sessions', (table) => {
        table.text('sid').primary();
        table.json('sess').notNullable();
        table.timestamp('expire', { precision: 6, useTz: false }).notNullable().index();
      });
      await knex.schema.createTable('secrets', (table) => {
        table.text('name').primary();
        table.text('value').notNullable();
      });
      await knex.schema.createTable('audit', (table) => {
        table.bigIncrements('number');
        table.timestamp('at').notNullable().defaultTo(knex.fn.now()).index();
        table.text('person');
        table.text('what').notNullable();
        table.text('path').notNullable();
        table.text('address');
      });
    },
  },
  {
    name: '0015-jobs-of-people',
    up: async (knex) => {
      await knex.schema.alterTable('all_jobs', (table) => {
        // Null where it was made without sign-in, or by somebody who is gone.
        table.uuid('owner_id').references('people.id').onDelete('SET NULL');
        table.boolean('for_everybody').notNullable().defaultTo(true);
      });
      await knex.raw('create or replace view jobs as select * from all_jobs where binned_at is null');
      await knex.schema.createTable('job_people', (table) => {
        table.uuid('job_id').notNullable().references('all_jobs.id').onDelete('CASCADE');
        table.uuid('person_id').notNullable().references('people.id').onDelete('CASCADE').index();
        table.primary(['job_id', 'person_id']);
      });
      await knex.schema.createTable('present', (table) => {
        table.text('window').primary();
        table.uuid('person_id').notNullable().references('people.id').onDelete('CASCADE');
        table.uuid('picture_id').notNullable().references('all_pictures.id').onDelete('CASCADE').index();
        table.timestamp('seen_at').notNullable();
      });
      await knex.schema.alterTable('history', (table) => {
        // The name at the time: it stays when its account goes.
        table.text('by');
      });
      await knex.schema.alterTable('runs', (table) => {
        table.text('by');
      });
    },
  },
  {
    name: '0016-openid',
    up: async (knex) => {
      await knex.schema.alterTable('people', (table) => {
        // Who it is for the provider: its address and the name it knows them by.
        table.text('openid').unique();
        table.text('password').nullable().alter();
      });
      await knex.schema.createTable('openid_flows', (table) => {
        table.text('id').primary();
        table.jsonb('body').notNullable();
        table.timestamp('expires_at').notNullable();
      });
    },
  },
  {
    name: '0017-pages',
    up: async (knex) => {
      await knex.schema.alterTable('all_pictures', (table) => {
        // How many pictures the file holds, and for one that was taken out of such a file, which.
        table.integer('pages').notNullable().defaultTo(1);
        table.uuid('page_of').references('all_pictures.id').onDelete('SET NULL').index();
        table.integer('page');
        // Why an examination was given up.
        table.text('examine_problem');
      });
      await knex.raw(
        `create or replace view pictures as select * from all_pictures where binned_at is null and exists (
           select from all_jobs where all_jobs.id = all_pictures.job_id and all_jobs.binned_at is null)`,
      );
    },
  },
  {
    name: '0018-learning',
    up: async (knex) => {
      await knex.schema.alterTable('all_jobs', (table) => {
        // Only pictures that were worked on since teach the finder; null: all of them.
        table.timestamp('learns_from');
      });
      await knex.raw('create or replace view jobs as select * from all_jobs where binned_at is null');
    },
  },
  {
    name: '0019-joined-pictures',
    up: async (knex) => {
      await knex.schema.createTable('assemblies', (table) => {
        // What a joined picture was made from, and how: an open document.
        table.uuid('picture_id').primary().references('all_pictures.id').onDelete('CASCADE');
        table.jsonb('document').notNullable();
      });
      await knex.schema.alterTable('faults', (table) => {
        // Its outline holds all of it, to the pixel.
        table.boolean('is_exact').notNullable().defaultTo(false);
      });
    },
  },
];

/** Hands Knex the steps from this file, so that they travel with the code that needs them. */
class StepSource {
  getMigrations(): Promise<Step[]> {
    return Promise.resolve([...STEPS]);
  }
  getMigrationName(step: Step): string {
    return step.name;
  }
  getMigration(step: Step): Promise<{ up: Step['up']; down: () => Promise<void> }> {
    return Promise.resolve({
      up: step.up,
      down: () => Promise.reject(new Error('The schema only goes forward.')),
    });
  }
}

/** The number under which PostgreSQL's advisory locks know that the schema is being brought up to date. */
const SCHEMA_LOCK = 0x666d;

/**
 * Brings the schema up to date. Safe to run from several servers at once: one after the other, by a lock that goes with its
 * connection. Knex's own is a row, which a server that dies on the way leaves behind.
 */
export async function migrate(knex: Knex): Promise<void> {
  await knex.transaction(async (holder) => {
    await holder.raw('select pg_advisory_xact_lock(?)', [SCHEMA_LOCK]);
    const source = { migrationSource: new StepSource() };
    if (await knex.schema.hasTable('knex_migrations_lock'))
      await knex.migrate.forceFreeMigrationsLock(source);
    await knex.migrate.latest(source);
  });
}
