import { createServer } from 'node:http'
import Provider from 'oidc-provider'

/** A sign-in service on loopback, whose people type who they are. */
export async function startElsewhere(redirect) {
    const server = createServer((request, response) => handle(request, response))
    let handle = () => {}
    await new Promise((ready) => server.listen(0, '127.0.0.1', ready))
    const url = `http://127.0.0.1:${server.address().port}`
    const provider = new Provider(url, {
        clients: [
            {
                client_id: 'bench',
                client_secret: 'of-this-test-alone',
                redirect_uris: [redirect],
                response_types: ['code'],
                grant_types: ['authorization_code'],
            },
        ],
        claims: { openid: ['sub'], profile: ['preferred_username', 'name'] },
        findAccount: (_, id) => ({
            accountId: id,
            claims: () => ({ sub: `account of ${id}`, preferred_username: id, name: id }),
        }),
        pkce: { required: () => true },
        cookies: { keys: ['of this test alone'] },
    })
    handle = provider.callback()
    return { url, end: () => new Promise((done) => server.close(done)) }
}
