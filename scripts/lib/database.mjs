// @ts-check
import { randomBytes, createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { programOf } from './lock.mjs';
import { lastLines, run } from './run.mjs';
import { Sentence } from './steps.mjs';
import { servingRole } from './serving-role.mjs';
import { ensurePostgres, isRoot, portIsFree } from './system.mjs';

const USER = 'mule_tally';
const DATABASE = 'mule_tally';

/**
 * A PostgreSQL cluster of the project's own, on loopback. PostgreSQL refuses to run as root, so as root everything runs as
 * the user that Debian's package made. `forTests` gives up durability for speed and has no password.
 */
export class Cluster {
  /** @param {{ folder: string, port: number, forTests?: boolean }} options */
  constructor({ folder, port, forTests = false }) {
    this.wantedFolder = folder;
    this.folder = folder;
    this.port = port;
    this.forTests = forTests;
    this.bin = '';
    this.startedHere = false;
    /** Once it has been started: as whom it is served. */
    this.servingUrl = '';
  }

  get data() {
    return join(this.folder, 'data');
  }
  get log() {
    return join(this.folder, 'postgresql.log');
  }
  get url() {
    const password = this.forTests
      ? ''
      : `:${readFileSync(join(this.wantedFolder, 'password'), 'utf8').trim()}`;
    return `postgresql://${USER}${password}@127.0.0.1:${this.port}/${DATABASE}`;
  }

  /** @param {string} command @param {string[]} args @param {NodeJS.ProcessEnv} [env] */
  async asServer(command, args, env = process.env) {
    const program = command.includes('/') ? command : join(this.bin, command);
    const options = { cwd: '/', env };
    return isRoot()
      ? run('runuser', ['-u', 'postgres', '--', program, ...args], options)
      : run(program, args, options);
  }

  /** Who owns the database, and who serves it. */
  get urls() {
    return { owner: this.url, serving: this.servingUrl };
  }

  /** Creates the folder; somewhere else when the server's user cannot enter the project. */
  async findFolder() {
    mkdirSync(this.wantedFolder, { recursive: true });
    if (!isRoot()) return;
    const canEnter = async (/** @type {string} */ folder) =>
      (await this.asServer('/usr/bin/test', ['-x', folder])).code === 0;
    if (!(await canEnter(dirname(this.wantedFolder)))) {
      const name = createHash('sha256').update(this.wantedFolder).digest('hex').slice(0, 16);
      this.folder = `/var/lib/mule-tally/${name}`;
      mkdirSync(this.folder, { recursive: true });
      writeFileSync(join(this.wantedFolder, 'where.txt'), `${this.folder}\n`);
    }
    await run('chown', ['postgres', this.folder]);
  }

  /** Makes the cluster when there is none. A half-made one (the machine went off) is made again. */
  async create() {
    if (existsSync(join(this.data, 'PG_VERSION'))) return 'already there';
    if (existsSync(this.data) && readdirSync(this.data).length) {
      throw new Sentence(
        `The folder ${this.data} is not a PostgreSQL database. Move it away (it may hold your houses), then start again.`,
      );
    }
    const fresh = join(this.folder, 'data.new');
    rmSync(fresh, { recursive: true, force: true });
    const args = ['-D', fresh, '-U', USER, '--locale=C.UTF-8', '-E', 'UTF8'];
    if (this.forTests) args.push('--auth=trust', '--no-sync');
    else {
      const password = randomBytes(24).toString('hex');
      const file = join(this.folder, 'password.new');
      writeFileSync(join(this.wantedFolder, 'password'), `${password}\n`, { mode: 0o600 });
      writeFileSync(file, `${password}\n`, { mode: 0o600 });
      if (isRoot()) await run('chown', ['postgres', file]);
      args.push('--auth=scram-sha-256', `--pwfile=${file}`);
    }
    const { code, output } = await this.asServer('initdb', args);
    rmSync(join(this.folder, 'password.new'), { force: true });
    if (code !== 0)
      throw new Sentence(`The database could not be created in ${this.folder}: ${lastLines(output)}`);
    await run('mv', [fresh, this.data]);
    return this.folder;
  }

  /** The process of the server, by the file that it leaves; a number that is another program's by now is nobody. */
  get pid() {
    const file = join(this.data, 'postmaster.pid');
    if (!existsSync(file)) return undefined;
    const pid = Number(readFileSync(file, 'utf8').split('\n')[0]);
    return programOf(pid) === 'postgres' ? pid : undefined;
  }

  async isRunning() {
    if (this.pid === undefined) {
      // Left behind by a server that is gone: it would keep the next one from starting.
      rmSync(join(this.data, 'postmaster.pid'), { force: true });
      return false;
    }
    return (await this.asServer('pg_ctl', ['status', '-D', this.data])).code === 0;
  }

  /** Starts the cluster, or takes over the one that an earlier, killed start left running. */
  async start() {
    this.bin = await ensurePostgres();
    await this.findFolder();
    await this.create();
    if (await this.isRunning()) {
      const [, , , port] = readFileSync(join(this.data, 'postmaster.pid'), 'utf8').split('\n');
      this.port = Number(port);
      this.startedHere = true;
      await this.ensureDatabase();
      return `taken over, was still running on port ${this.port}`;
    }
    for (let tries = 0; !(await portIsFree(this.port)); tries++) {
      if (tries === 20)
        throw new Sentence(`No port for the database is free near ${this.port}; set DB_PORT.`);
      this.port++;
    }
    const settings = ['listen_addresses=127.0.0.1', 'unix_socket_directories='];
    if (this.forTests) settings.push('fsync=off', 'synchronous_commit=off', 'full_page_writes=off');
    const options = [`-p ${this.port}`, ...settings.map((setting) => `-c ${setting}`)].join(' ');
    const { code, output } = await this.asServer('pg_ctl', [
      'start',
      '-w',
      '-t',
      '60',
      '-D',
      this.data,
      '-l',
      this.log,
      '-o',
      options,
    ]);
    if (code !== 0) {
      const log = existsSync(this.log) ? readFileSync(this.log, 'utf8') : output;
      const reason =
        log
          .trim()
          .split('\n')
          .findLast((line) => /FATAL|PANIC|ERROR/.test(line)) ?? lastLines(log, 1);
      throw new Sentence(
        `The database in ${this.data} does not start: ${reason.replace(/^.*?(FATAL|PANIC|ERROR): */, '')}. Its log is ${this.log}.`,
      );
    }
    this.startedHere = true;
    await this.ensureDatabase();
    return `port ${this.port}`;
  }

  async ensureDatabase() {
    const env = { ...process.env, PGPASSWORD: new URL(this.url).password };
    const { code, output } = await this.asServer(
      'createdb',
      ['-h', '127.0.0.1', '-p', String(this.port), '-U', USER, '-w', '--maintenance-db=postgres', DATABASE],
      env,
    );
    if (code !== 0 && !/already exists/.test(output)) {
      throw new Sentence(
        `The database server runs, but its database could not be made: ${lastLines(output, 1)}`,
      );
    }
    this.servingUrl = await servingRole(this.url, this.wantedFolder);
  }

  async stop() {
    if (!this.startedHere) return;
    await this.asServer('pg_ctl', ['stop', '-m', 'fast', '-w', '-D', this.data]);
    this.startedHere = false;
  }

  /** Stops as a power cut would. */
  async crash() {
    await this.asServer('pg_ctl', ['stop', '-m', 'immediate', '-w', '-D', this.data]);
  }

  async destroy() {
    await this.stop();
    for (const folder of new Set([this.folder, this.wantedFolder]))
      rmSync(folder, { recursive: true, force: true });
  }
}
