import { execFileSync } from 'node:child_process'
import { chownSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir, userInfo } from 'node:os'
import { join } from 'node:path'

const versions = '/usr/lib/postgresql'

/**
 * With REVTAL_TEST_STORE=postgres each shop of these tests lies in a database of its own, on a private server that
 * does not run as root.
 */
export default function setup() {
    if (process.env.REVTAL_TEST_STORE !== 'postgres') return
    const newest = readdirSync(versions)
        .sort((a, b) => a - b)
        .at(-1)
    const isRoot = userInfo().uid === 0
    const home = mkdtempSync(join(tmpdir(), 'revtal-postgres-'))
    const port = 33_000 + Math.floor(Math.random() * 20_000)
    const run = (tool, ...args) => {
        const whole = [join(versions, newest, 'bin', tool), ...args]
        const [program, ...rest] = isRoot ? ['runuser', '-u', 'postgres', '--', ...whole] : whole
        execFileSync(program, rest, { cwd: '/', stdio: 'ignore' })
    }
    if (isRoot) chownSync(home, Number(execFileSync('id', ['-u', 'postgres'], { encoding: 'utf8' })), -1)
    const data = join(home, 'data')
    run('initdb', '-D', data, '-A', 'trust', '-U', 'revtal', '--no-sync', '--locale=C.UTF-8')
    run(
        'pg_ctl',
        '-D',
        data,
        '-w',
        '-l',
        join(home, 'log'),
        '-o',
        `-p ${port} -h 127.0.0.1 -k ${home} -F`,
        'start',
    )
    process.env.REVTAL_TEST_SERVER = `${port}`
    return () => {
        run('pg_ctl', '-D', data, '-m', 'fast', '-w', 'stop')
        rmSync(home, { recursive: true })
    }
}
