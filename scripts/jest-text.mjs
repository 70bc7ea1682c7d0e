/** A text file that is imported, such as a step of the database, as the module that esbuild makes of it. */
export default {
  process: (text) => ({ code: `module.exports = { __esModule: true, default: ${JSON.stringify(text)} };` }),
};
