"""The sites as GPX for the boat."""

from __future__ import annotations

import gpxpy.gpx

from nailwright.plan.models import Survey
from nailwright.waters.reaches import reach_of


def gpx_of(survey: Survey) -> str:
    """Start and end of every site as waypoints, each site as a track (GPX 1.1); without sites laid out the water's own as waypoints."""
    file = gpxpy.gpx.GPX()
    file.name, file.creator = survey.name, "Nailwright"
    laid_out = list(survey.sites.all())
    if not laid_out:
        file.waypoints += [
            gpxpy.gpx.GPXWaypoint(round(lat, 6), round(lon, 6), name=site.name)
            for site in survey.water.sites.filter(retired_at=None).order_by("name")
            for lat, lon in [site.position]
            if lat is not None and lon is not None
        ]
        return file.to_xml(version="1.1")
    reach = reach_of(survey.water)
    for site in laid_out:
        points = reach.part(site.start_m, site.end_m)
        for word, (lon, lat) in (("start", points[0]), ("end", points[-1])):
            file.waypoints.append(
                gpxpy.gpx.GPXWaypoint(
                    round(lat, 6),
                    round(lon, 6),
                    name=f"{site.number} {word}",
                    description=_km(site.start_m, site.end_m),
                )
            )
        track = gpxpy.gpx.GPXTrack(name=f"Site {site.number}")
        track.segments.append(
            gpxpy.gpx.GPXTrackSegment([gpxpy.gpx.GPXTrackPoint(round(lat, 6), round(lon, 6)) for lon, lat in points])
        )
        file.tracks.append(track)
    return file.to_xml(version="1.1")


def _km(start_m: float, end_m: float) -> str:
    return f"km {start_m / 1000:.2f} to {end_m / 1000:.2f}"
