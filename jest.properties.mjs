import fc from 'fast-check';

/**
 * A property that fails is made smaller for at most this long, in ms: halving doubles can go on for
 * ever, and a test that never ends says less than one that fails. Below Jest's own limit for a test.
 */
fc.configureGlobal({ interruptAfterTimeLimit: 45_000, markInterruptAsFailure: true });
