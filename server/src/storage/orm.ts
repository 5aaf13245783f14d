import { Migrator } from '@mikro-orm/migrations';
import { MikroORM } from '@mikro-orm/postgresql';
import { ENTITIES } from './entities.js';
import { MIGRATIONS } from './migrations.js';

export type Orm = MikroORM;

/** Connects to a database, by its URL. Migrating is a step of its own. */
export const connect = (databaseUrl: string, connections = 10): Promise<Orm> =>
  MikroORM.init({
    clientUrl: databaseUrl,
    entities: ENTITIES,
    extensions: [Migrator],
    discovery: { disableDynamicFileAccess: true },
    metadataCache: { enabled: false },
    migrations: { migrationsList: MIGRATIONS, snapshot: false, transactional: true },
    pool: { min: 0, max: connections, acquireTimeoutMillis: 5000 },
    driverOptions: { connection: { connectionTimeoutMillis: 4000 } },
    allowGlobalContext: false,
    logger: () => undefined,
  });
