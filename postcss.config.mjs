const config = { plugins: { 'postcss-preset-mantine': {}, 'postcss-simple-vars': { variables: {} } } };

export default config;
