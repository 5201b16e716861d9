"""Addresses of the register, of rows to take home, and of files."""

from django.urls import path

from nailwright.records import api
from nailwright.records.archive.api import ArchiveView, BringProgrammeView
from nailwright.records.marked import api as marked
from nailwright.records.paper_cards import api as paper_cards

urlpatterns = [
    path("programmes/bring-in", BringProgrammeView.as_view()),
    path("programmes/<uuid:programme_id>/archive.zip", ArchiveView.as_view()),
    path("fish/<uuid:fish_id>/handling", marked.FishHandlingView.as_view()),
    path("programmes/<uuid:programme_id>/register", api.RegisterView.as_view()),
    path("programmes/<uuid:programme_id>/encounters.csv", marked.EncountersCsvView.as_view()),
    path("programmes/<uuid:programme_id>/encounter-histories.csv", marked.HistoriesCsvView.as_view()),
    path("programmes/<uuid:programme_id>/encounters.geojson", marked.EncountersGeoJsonView.as_view()),
    path("programmes/<uuid:programme_id>/encounters.kml", marked.EncountersKmlView.as_view()),
    path("programmes/<uuid:programme_id>/encounters.gpx", marked.EncountersGpxView.as_view()),
    path("programmes/<uuid:programme_id>/returns.csv", marked.ReturnsCsvView.as_view()),
    path("programmes/<uuid:programme_id>/marks.zip", api.MarksPackageView.as_view()),
    path("programmes/<uuid:programme_id>/marks-at-large.csv", api.AtLargeCsvView.as_view()),
    path("programmes/<uuid:programme_id>/marks-at-large.zip", api.AtLargePackageView.as_view()),
    path("programmes/<uuid:programme_id>/darwin-core.zip", api.DarwinCoreView.as_view()),
    path("programmes/<uuid:programme_id>/captures.csv", api.RowsView.as_view()),
    path("programmes/<uuid:programme_id>/captures.xlsx", api.WorkbookView.as_view()),
    path("programmes/<uuid:programme_id>/mappings", api.MappingsView.as_view()),
    path("mappings/<uuid:mapping_id>", api.MappingView.as_view()),
    path("programmes/<uuid:programme_id>/captures.zip", api.DataPackageView.as_view()),
    path("programmes/<uuid:programme_id>/paper-cards", paper_cards.PaperCardsView.as_view()),
    path("programmes/<uuid:programme_id>/paper-cards/file", paper_cards.CardSheetView.as_view()),
    path("programmes/<uuid:programme_id>/imports", api.ImportsView.as_view()),
    path("imports/<uuid:import_id>", api.ImportView.as_view()),
    path("imports/<uuid:import_id>/try", api.TryView.as_view()),
    path("imports/<uuid:import_id>/bring-in", api.BringInView.as_view()),
    path("imports/<uuid:import_id>/take-back", api.TakeBackView.as_view()),
    path("imports/<uuid:import_id>/rejects.csv", api.RejectsView.as_view()),
]
