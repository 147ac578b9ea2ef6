// A page for component tests: jsdom, with what browsers have had for years and it has not.
import JsdomEnvironment from 'jest-environment-jsdom';

const ends = { addEventListener() {}, removeEventListener() {}, start() {}, close() {} };
/** Messages between two ends, a moment later; it keeps no process going. */
class Channel {
  port1 = { postMessage: (data) => this.send(this.port2, data), ...ends };
  port2 = { postMessage: (data) => this.send(this.port1, data), ...ends };
  send(port, data) {
    setTimeout(() => port.onmessage?.({ data }), 0).unref();
  }
}
const missing = { MessageChannel: Channel, TextEncoder, TextDecoder, structuredClone, Headers, URL, URLSearchParams };

export default class PageEnvironment extends (JsdomEnvironment.default ?? JsdomEnvironment) {
  async setup() {
    await super.setup();
    for (const [name, thing] of Object.entries(missing)) this.global[name] ??= thing;
    this.global.structuredClone = structuredClone;
  }
}
