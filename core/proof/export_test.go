package proof

// English is for tests.
var English = english
