// swc for Jest, with Math bound in every module: in Jest's contexts a look-up of a global costs a hundred times what it costs
// in Node, and our pixel loops make millions.
import swc from '@swc/jest';

const bound = (result) => ({ ...result, code: `const Math = globalThis.Math;${result.code}` });

export default {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    return {
      ...inner,
      process: (...args) => bound(inner.process(...args)),
      processAsync: async (...args) => bound(await inner.processAsync(...args)),
    };
  },
};
