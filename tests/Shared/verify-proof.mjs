// Reads a proof on its standard input, and a JSON Web Key Set from the address that is given; tells what was signed.
import { compactVerify, createRemoteJWKSet } from '../../console/node_modules/jose/dist/webapi/index.js'

const proof = (await new Response(process.stdin).text()).trim()
const { payload, protectedHeader } = await compactVerify(proof, createRemoteJWKSet(new URL(process.argv[2])))
console.log(JSON.stringify({ header: protectedHeader, payload: JSON.parse(new TextDecoder().decode(payload)) }))
