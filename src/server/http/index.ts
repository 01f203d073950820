export { type Body, readBody } from './body.js';
export { type Limits, usualLimits } from './bytes.js';
export { type About, type Endpoint, type EndpointOptions, endpoint, type Refused, wantsHtml } from './endpoint.js';
export type { LogEntry } from './log.js';
export { conflict, invalid, type Problem, type ProblemCode, problem, problemResponse } from './problem.js';
export { type Received, type ReceiveOptions, receive, type ServerHow, type ServerRules } from './receive.js';
