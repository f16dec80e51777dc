// Debian packages the project needs. Installed as root or with sudo; otherwise it says what to install and stops.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';

const POSTGRES = '/usr/lib/postgresql';

/** The folder of the newest PostgreSQL server's programs, or null where there is none. */
export function postgresPrograms() {
  if (!existsSync(POSTGRES)) return null;
  const versions = readdirSync(POSTGRES).filter((version) => existsSync(`${POSTGRES}/${version}/bin/initdb`));
  versions.sort((a, b) => Number(b) - Number(a));
  return versions.length > 0 ? `${POSTGRES}/${versions[0]}/bin` : null;
}

export function needPostgres() {
  if (postgresPrograms() === null) {
    // Without this Debian makes and starts a cluster of its own, which nobody asked for.
    install('postgresql', [
      'mkdir -p /etc/postgresql-common/createcluster.d',
      "printf 'create_main_cluster = false\\n' > /etc/postgresql-common/createcluster.d/nockwright.conf",
    ]);
  }
  const programs = postgresPrograms();
  if (programs === null) stop('postgresql');
  return programs;
}

export function needChromium() {
  if (!existsSync('/usr/bin/chromium')) install('chromium');
  if (!existsSync('/usr/bin/chromium')) stop('chromium');
}

function install(name, before = []) {
  const root = process.getuid?.() === 0;
  const sudo = !root && spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0;
  if (!root && !sudo) stop(name);
  console.log(`Installing Debian's package ${name} (a minute or two) ...`);
  const script = [...before, 'apt-get update -qq', `DEBIAN_FRONTEND=noninteractive apt-get install -y -qq ${name}`].join(' && ');
  const words = ['sh', '-c', script];
  const run = spawnSync(root ? words[0] : 'sudo', root ? words.slice(1) : ['-n', ...words], { stdio: ['ignore', 'ignore', 'inherit'] });
  if (run.status !== 0) stop(name);
}

function stop(name) {
  console.error(
    `Nockwright needs Debian's package ${name} and cannot install it here. Install it with:\n\n    sudo apt-get install ${name}\n\nand start again.`,
  );
  process.exit(1);
}
