// One declaration a line, one selector's rules a block.
export default {
  extends: ['stylelint-config-recommended'],
  overrides: [{ files: ['**/*.vue'], customSyntax: 'postcss-html' }],
  rules: {
    'declaration-block-single-line-max-declarations': 1,
    'no-descending-specificity': null,
    'selector-pseudo-class-no-unknown': [true, { ignorePseudoClasses: ['deep'] }],
  },
}
