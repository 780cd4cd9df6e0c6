# frozen_string_literal: true

module Vestry
  module Web
    module Admin
      # Who may do what here, and the letters that went out.
      class MemberPages < Base
        helpers do
          def show(errors: {}, link: nil)
            members = Records::Membership.of(orchard)
            invites = may?("steward") ? Records::Invite.open(orchard) : []
            erb :"people/members", locals: { members: members, invites: invites, errors: errors, link: link }
          end

          # What stands in the name of someone who left.
          def say_left(member)
            open = Records::Agenda.new(orchard, today).people.fetch(member.known_as, 0)
            "#{member.known_as} has left.#{" #{counted(open, 'task')} #{open == 1 ? 'stands' : 'stand'} in that name " \
              'and can be given to somebody else under Tend.' if open.positive?}"
          end

          # Whether a letter was sent, as far as a mail service is named or was.
          def letter_state(letter)
            return "; sent" if letter[:delivered_at]
            return "; not sent yet, for the mail service said: #{letter[:trouble]}" if letter[:trouble]

            Outside::MailService.named? ? "; on its way" : ""
          end
        end

        get("/") { show }

        get("/outbox") { erb :"people/outbox", locals: { letters: Outside::Outbox.of(orchard) } }

        # Who came to the door.
        get "/door" do
          rows = Records::DoorLog.of(orchard, before: query[:before])
          erb :"people/door_log", locals: { rows: rows, more: rows.size == Records::DoorLog::PAGE && rows.last[:id] }
        end

        # Whether members need a second step.
        post "/second-step" do
          password_again(to("people"))
          wanted = params["wanted"] == "yes"
          if wanted && !env["rodauth"].two_factor_authenticated?
            notice "Add a second step for yourself first, and sign in with it."
            redirect "/second-step"
          end
          Deeds::Ledger.change(orchard, { second_factor: wanted }, by: actor)
          door_log("role", wanted ? "a second step is asked of everyone" : "a second step is no longer asked")
          redirect to("people")
        end

        post "/invites" do
          password_again(to("people"))
          role, name = params["role"].to_s, params["name"].to_s.strip[0, 80]
          unless Records::Membership::ROLES.include?(role)
            status 422
            next show(errors: { role: "is viewer, grafter or steward" })
          end
          outside_address("/")
          door_log("invited", "#{name.empty? ? 'someone' : name} as a #{role}")
          attempt(->(e) { show(errors: { role: e.words }) }) do
            show(link: outside_address("/join/#{Deeds::InvitePerson.call(orchard, role: role, name: name, by: actor)}"))
          end
        end

        post "/invites/:id/revoke" do
          Records::Invite.revoke(orchard, params["id"])
          notice "That link no longer works."
          redirect to("people")
        end

        post "/members/:id" do
          attempt(->(e) { show(errors: e.errors.transform_values { |words| words.join("; ") }) }) do
            password_again(to("people"))
            role = params["role"].to_s
            leaving = role == "leave"
            unless leaving || Records::Membership::ROLES.include?(role)
              status 422
              next show(errors: { role: "is viewer, grafter, steward or leave" })
            end
            member = Deeds::ChangeMember.call(orchard, Records::RowNumber.read(params["id"]), leaving ? nil : role,
                                              by: actor)
            door_log("role", "#{member.known_as}: #{leaving ? 'leaves' : role}")
            notice say_left(member) if leaving
            redirect to("people")
          end
        end

        post "/leave" do
          attempt(->(e) { show(errors: e.errors.transform_values { |words| words.join("; ") }) }) do
            mine = Records::Membership.between(account, orchard)
            Deeds::ChangeMember.call(orchard, mine.id, nil, by: actor)
            door_log("left")
            redirect "/"
          end
        end
      end
    end
  end
end
