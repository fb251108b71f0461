import createClient, { type Middleware } from 'openapi-fetch'
import type { components, paths } from './openapi'

type Schemas = components['schemas']
export type OrderView = Schemas['OrderView']
export type OrderCard = Schemas['OrderCard']
export type PositionView = Schemas['PositionView']
export type RunStep = Schemas['RunStep']
export type StepView = Schemas['StepView']
export type Finding = Schemas['Finding']
export type CheckResult = Schemas['CheckResult']
export type PlanView = Schemas['PlanView']
export type ReadingView = Schemas['ReadingView']
export type SlotChange = Schemas['SlotChange']
export type FastenerGroup = Schemas['FastenerGroup']
export type Stage = Schemas['Stage']
export type Verdict = NonNullable<Schemas['Verdict']>
export type Receipt = Schemas['Receipt']
export type Change = Schemas['Change']
export type GuideView = Schemas['GuideView']
export type Person = Schemas['Person']
export type BundleFile = Schemas['BundleFile']

/** The service refused, and says why and what to do. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    detail: string,
  ) {
    super(detail)
  }
}

const personKey = 'revtal.person'
export const rememberedPerson = () => localStorage.getItem(personKey) ?? ''
export const rememberPerson = (id: string) => localStorage.setItem(personKey, id)

const headers: Middleware = {
  onRequest({ request }) {
    const person = rememberedPerson()
    if (request.method !== 'GET' && person) request.headers.set('Revtal-As', person)
    return request
  },
  async onResponse({ response }) {
    if (response.ok) return response
    const body = (await response.json().catch(() => ({}))) as {
      code?: string
      detail?: string
      title?: string
    }
    const detail = response.status === 401 ? 'Choose who you are, at the top of the page.' : body.detail
    throw new Problem(
      response.status,
      body.code ?? '',
      detail ?? body.title ?? `The service answered ${response.status}.`,
    )
  },
}

export const api = createClient<paths>({ baseUrl: location.origin })
api.use(headers)

/** A lost connection, as against an answer that says no. */
export const isLost = (error: unknown) => error instanceof TypeError

/** A key for one change, to be kept for its retries. */
export const newKey = () => ({ 'Idempotency-Key': crypto.randomUUID() })
