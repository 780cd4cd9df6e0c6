# frozen_string_literal: true

module Vestry
  module Records
    # Rows whose time is over, thrown away: each kind by the moment before which it is.
    module Expired
      module_function

      # @param personal [Time] for letters to one person alone
      # @param others [Time] for all letters
      def letters(personal:, others:)
        DB[:letters].where(orchard_id: nil).where { sent_at < personal }.delete
        DB[:letters].where { sent_at < others }.delete
        DB[:daily_letters].where { day < others.to_date }.delete
      end

      def sign_in(sessions:, keys:, invites:)
        DB[:account_active_session_keys].where { last_use < sessions }.delete
        %i[account_password_reset_keys account_lockouts account_login_change_keys].each do |table|
          DB[table].where { deadline < keys }.delete
        end
        Invite.where(used_at: nil).where { expires_at < invites }.delete
      end

      def requests(answers:, counts:)
        DB[:repeated_requests].where { created_at < answers }.delete
        DB[:door_counts].where { expires_at < counts }.delete
        DB[:typed_forms].where { created_at < answers }.delete
      end

      # Files that were never brought in, and the text of those that were: what they wrote stays, and is no longer taken
      # back.
      def imports(unfinished:, texts:)
        Import.where(state: %w[matching previewed failed]).where { created_at < unfinished }.delete
        Import.where(state: "done").where { created_at < texts }.exclude(content: Sequel.blob(""))
          .update(content: Sequel.blob(""))
      end

      # Background work that is over, or was given up.
      def jobs(finished:, given_up:)
        DB[:que_jobs].where { finished_at < finished }.delete
        DB[:que_jobs].where { expired_at < given_up }.delete
      end

      # @param before [Date]
      def derived(before:) = DB[:derived].where { day < before }.delete
    end
  end
end
