/** The shop as a service of systemd: begun with the machine, begun again when it falls over, and let near nothing but its own file. */

export interface ServiceOptions {
  /** Folder of the program. */
  readonly program: string;
  /** Folder of the shop's file, its copies and keys. */
  readonly data: string;
  /** Path of Node. */
  readonly node: string;
  /** Who it runs as. */
  readonly user: string;
  /** File with its settings, one NAME=value a line. */
  readonly settings: string;
}

/** A path in a unit file: its own signs doubled, in quotation marks. @see systemd.syntax(7) */
const quoted = (path: string): string =>
  `"${path.replaceAll('\\', '\\\\').replaceAll('"', '\\"').replaceAll('%', '%%')}"`;

/**
 * The unit file. Stopped, it is given as long as a backup takes to close its file.
 * @see systemd.service(5), systemd.exec(5)
 */
export function unitOf({ program, data, node, user, settings }: ServiceOptions): string {
  return [
    '[Unit]',
    'Description=Cork Ember, the battery bench',
    'After=network.target time-sync.target',
    'StartLimitIntervalSec=0',
    '',
    '[Service]',
    'Type=simple',
    `User=${user}`,
    `WorkingDirectory=${program.replaceAll('%', '%%')}`,
    `EnvironmentFile=-${settings.replaceAll('%', '%%')}`,
    `ExecStart=${quoted(node)} ${quoted(`${program}/server/dist/main.js`)}`,
    'Restart=always',
    'RestartSec=2',
    'KillSignal=SIGTERM',
    'TimeoutStopSec=30',
    'NoNewPrivileges=yes',
    'PrivateTmp=yes',
    'PrivateDevices=yes',
    'ProtectSystem=strict',
    'ProtectControlGroups=yes',
    'ProtectKernelModules=yes',
    'ProtectKernelTunables=yes',
    'RestrictSUIDSGID=yes',
    'LockPersonality=yes',
    `ReadWritePaths=${quoted(data)}`,
    '',
    '[Install]',
    'WantedBy=multi-user.target',
    '',
  ].join('\n');
}

/** The program's folder, out of a unit file; undefined where it names none. */
export const workingDirectoryIn = (unit: string): string | undefined =>
  /^WorkingDirectory=(.+)$/m.exec(unit)?.[1]?.replaceAll('%%', '%');

/** Settings it begins with: its own file, open to the shop's network. */
export const settingsOf = (data: string): string =>
  [
    '# Settings of Cork Ember; what each means stands in its README.',
    `CORK_EMBER_FILE=${data}/shop.sqlite`,
    'CORK_EMBER_HOST=0.0.0.0',
    'CORK_EMBER_LOG=info',
    '',
  ].join('\n');
