"""The API as a whole."""

from . import (
    analyses,
    catalogue,
    demo,
    errors,
    exports,
    figures,
    formulas,
    gradients,
    photos,
    pieces,
    previews,
    recipes,
    runs,
    variants,
    versions,
)
from .bodies import BoundedParser
from .described import DescribedAPI

api = DescribedAPI(title="Caracol", version="1", docs_url=None, openapi_url="/openapi.json", parser=BoundedParser())
api.add_router("/catalogue", catalogue.router)
api.add_router("/photos", photos.router)
api.add_router("/pieces", pieces.router)
api.add_router("/previews", previews.router)
api.add_router("/analyses", analyses.router)
api.add_router("/variants", variants.router)
api.add_router("/demo", demo.router)
api.add_router("/figures", figures.router)
api.add_router("/formulas", formulas.router)
api.add_router("/recipes", recipes.router)
api.add_router("/runs", runs.router)
api.add_router("/gradients", gradients.router)
api.add_router("", exports.router)
api.add_router("", versions.router)
errors.install(api)
