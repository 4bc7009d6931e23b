// Read by the tests' harness of the server.
process.env['VANE_TEST_SHARD'] = 'second';
