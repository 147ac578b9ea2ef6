// A page for component tests: jsdom, with what browsers have had for years and it has not.
import JsdomEnvironment from 'jest-environment-jsdom';

const missing = { TextEncoder, TextDecoder, structuredClone, Headers, URL, URLSearchParams };

export default class PageEnvironment extends (JsdomEnvironment.default ?? JsdomEnvironment) {
  async setup() {
    await super.setup();
    for (const [name, thing] of Object.entries(missing)) this.global[name] ??= thing;
    this.global.structuredClone = structuredClone;
  }
}
