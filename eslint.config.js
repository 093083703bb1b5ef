import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import ts from 'typescript-eslint'

/** Where numbers stand in flat arrays, and an index that is in range need not be asked for every one of them. */
const NUMERIC = [
  'core/{maths,artwork,binds,placement,deformers,alternates,constraints,responses,simulation,springs,strides,idle,speech,meshing,touch,posing,reports}/**',
  'core/bones/{table,pose,poseBone}.ts',
  'core/puppet/{fit,posedMap,probe,evaluate,drawings,paintList,compile,frame}.ts',
  'core/recording/{points,shown,inverse,together}.ts',
  'core/clips/{curve,graph,layers,thin}.ts',
  'core/playing/{motionRun,liveMotion,selfMotion}.ts',
  'core/rangeTest/{contacts,forms,jumps,windings}.ts',
  'core/joints/{attachment,capPicture,proposeJoints}.ts',
  'core/face/{outlineMoves,mouth/outline,mouth/room,mouth/lipLine}.ts',
  'authoring/{jointLooker,strays}.ts',
  'render/**',
  'formats/**',
  // What is drawn over the stage on every frame, and what a moving pointer asks of it.
  'app/stage/overlay.ts',
  'app/features/binds/{heat,weighPoints}.ts',
  'app/features/constraints/targetMarks.ts',
  'app/features/cutting/cutTool.ts',
  'app/features/deformers/stiffness.ts',
  'app/features/posing/poseTool.ts',
  'app/features/responses/recordMarks.ts',
  'app/features/touch/{touchMarks,meshPoints,mesh,target,pointsTool}.ts',
  'demo/{soften,quill/brush}.ts',
]

export default ts.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'data/**', 'coverage/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-console': 'error',
      'no-undef': 'off',
    },
  },
  {
    // What needs types: promises that nobody waits for, and kinds that a switch forgot.
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { project: './tsconfig.json', tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
    },
  },
  {
    files: ['**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts', '**/*.long.ts', '**/test/**'],
    rules: {
      complexity: ['error', 24],
      'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
      'max-lines-per-function': ['error', { max: 110, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    // What is known to be there is taken by core/kernel/sure.ts, which stops where it is not.
    files: ['**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts', '**/*.long.ts', '**/test/**', 'e2e/**', 'bench/**', 'scripts/**', ...NUMERIC],
    rules: { '@typescript-eslint/no-non-null-assertion': 'error' },
  },
  {
    files: ['app/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    files: ['scripts/**', 'bench/**', 'cli/**', 'server/**', '*.js', '*.cjs'],
    rules: { 'no-console': 'off', '@typescript-eslint/no-require-imports': 'off' },
  },
)
