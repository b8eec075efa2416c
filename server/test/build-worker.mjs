// The reading worker is a built script; build it once before the server's tests.
import { buildServer } from '../../scripts/build.mjs';

export default buildServer;
