const given = (name: string): string => {
  const url = process.env[name];
  if (!url) throw new Error(`${name} is not set; "npm run test:server" sets it`);
  return url;
};

/** The database of the specs, as its owner and as who serves it. */
export const OWNER_URL = given('TEST_DATABASE_URL');
export const SERVING_URL = given('TEST_SERVING_URL');
