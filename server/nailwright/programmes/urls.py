"""Addresses of people and programmes."""

from django.urls import path

from nailwright.programmes.api import account, people, programme, protocol, session, sync

urlpatterns = [
    path("session", session.SessionView.as_view()),
    path("session/demo", session.DemoSessionView.as_view()),
    path("session/everywhere", account.SignOutEverywhereView.as_view()),
    path("first", programme.FirstView.as_view()),
    path("account", account.AccountView.as_view()),
    path("account/short-code", account.ShortCodeView.as_view()),
    path("account/data", account.OwnDataView.as_view()),
    path("account/forget", account.ForgetMeView.as_view()),
    path("account/password", account.PasswordView.as_view()),
    path("account/second-step", account.SecondStepView.as_view()),
    path("account/second-step/end", account.EndSecondStepView.as_view()),
    path("password/forgotten", account.ForgottenView.as_view()),
    path("password/reset", account.ResetView.as_view()),
    path("tokens", account.TokensView.as_view()),
    path("tokens/<uuid:token_id>", account.TokenView.as_view()),
    path("programmes", programme.ProgrammesView.as_view()),
    path("programmes/<uuid:programme_id>", programme.ProgrammeView.as_view()),
    path("programmes/<uuid:programme_id>/sync", sync.SyncView.as_view()),
    path("programmes/<uuid:programme_id>/species", programme.SpeciesView.as_view()),
    path("programmes/<uuid:programme_id>/species/<slug:code>", programme.OneSpeciesView.as_view()),
    path("programmes/<uuid:programme_id>/species/<slug:code>/as-shipped", programme.AsShippedView.as_view()),
    path("programmes/<uuid:programme_id>/protocol", protocol.ProtocolView.as_view()),
    path("programmes/<uuid:programme_id>/people", people.PeopleView.as_view()),
    path("programmes/<uuid:programme_id>/invitations", people.InvitationsView.as_view()),
    path("invitations/look", people.LookView.as_view()),
    path("invitations/join", people.JoinView.as_view()),
    path("invitations/<uuid:invitation_id>", people.InvitationView.as_view()),
    path("members/<uuid:member_id>", people.MemberView.as_view()),
    path("members/<uuid:member_id>/shut-out", people.ShutOutView.as_view()),
    path("members/<uuid:gone_id>/forget", people.ForgetMemberView.as_view()),
    path("members/<uuid:member_id>/password-link", people.PasswordLinkView.as_view()),
]
