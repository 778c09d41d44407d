"""Static files under hashed names, the imports between JavaScript modules included."""

from whitenoise.storage import CompressedManifestStaticFilesStorage


class ModuleStorage(CompressedManifestStaticFilesStorage):
    """WhiteNoise's storage; relative imports of modules are rewritten to hashed names too."""

    support_js_module_import_aggregation = True
    max_post_process_passes = 20
    """A pass goes one module further along a chain of imports; those of the Bench are longer than the usual five."""
