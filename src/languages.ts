export { messagesIn } from './core/meaning/index.js';
export { type Catalogue, english, polish, type WordKey, type Words } from './core/messages/index.js';
