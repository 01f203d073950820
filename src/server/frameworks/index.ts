export { expressHandler } from './express.js';
export { fastifyHandler, passBodies } from './fastify.js';
export { honoHandler } from './hono.js';
export { type NodeRequest, type NodeResponse, nodeHandler } from './node.js';
