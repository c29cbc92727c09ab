package say

// English is for tests.
var English = english
