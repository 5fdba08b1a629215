"""What every route may refuse, for the API's document."""

from velmot.api.schemas import Problem

PROBLEMS = dict.fromkeys((400, 403, 404, 409, 413, 422, 503, 507), Problem)
