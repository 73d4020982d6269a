const swc = {
  swcrc: false,
  jsc: {
    parser: { syntax: 'typescript', decorators: true, tsx: true },
    transform: { legacyDecorator: true, decoratorMetadata: true, useDefineForClassFields: false, react: { runtime: 'automatic' } },
    keepClassNames: true,
    target: 'es2022',
  },
  module: { type: 'commonjs' },
  sourceMaps: 'inline',
};

/** Packages that ship ES modules only and so are compiled for Jest too. */
const compiled = ['@nestjs', '@crew', 'echarts', 'zrender', 'marked', 'd3-[a-z]+', 'internmap', '@tanstack', 'country-to-currency'].join(
  '|',
);

const project = (displayName, rootDir, { testEnvironment = 'node', ...more } = {}) => ({
  displayName,
  rootDir,
  testEnvironment,
  testEnvironmentOptions: { customExportConditions: ['@crew/source', 'node', 'node-addons'] },
  testMatch: ['<rootDir>/**/*.test.ts', '<rootDir>/**/*.test.tsx'],
  transform: { '^.+\\.m?[jt]sx?$': ['@swc/jest', swc] },
  transformIgnorePatterns: [`node_modules/(?!(${compiled})/)`],
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  ...more,
});

export default {
  testTimeout: 30_000,
  projects: [
    project('core', 'packages/core'),
    project('contract', 'packages/contract'),
    project('server', 'apps/server', { setupFiles: ['reflect-metadata'] }),
    project('web', 'apps/web', {
      testEnvironment: 'jsdom',
      testEnvironmentOptions: { customExportConditions: ['@crew/source', 'browser', 'require', 'default'] },
      setupFiles: ['<rootDir>/test/setup.ts'],
    }),
  ],
};
