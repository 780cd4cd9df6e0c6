# frozen_string_literal: true

module Vestry
  module Records
    # Who came to the door, and what was changed about who may do what: sign-ins, refusals, roles, keys, exports.
    module DoorLog
      KEPT_DAYS = 365
      # What is noted, in words.
      WORDS = {
        "signed-in" => "signed in", "refused" => "was refused at sign-in", "locked" => "sign-in was locked",
        "unlocked" => "unlocked the sign-in",
        "signed-out" => "signed out", "ended-others" => "signed out everywhere else",
        "password" => "changed the password",
        "address" => "changed the address", "second-factor-on" => "added a second step",
        "second-factor-off" => "removed a second step",
        "key-made" => "made a key for a program", "key-revoked" => "revoked a key", "role" => "changed a role",
        "invited" => "invited someone",
        "joined" => "joined", "left" => "left", "export" => "had the orchard packed", "closed" => "closed the account",
        "not-theirs" => "asked for what their role may not do"
      }.freeze
      PAGE = 100

      module_function

      # @param what [String] one of WORDS
      # @param visit [Hash] +place+ and +device+ it came from
      def note(what, account_id: nil, orchard_id: nil, about: "", **visit)
        raise ArgumentError, what unless WORDS.key?(what)

        DB[:door_log].insert(what: what, account_id: account_id, orchard_id: orchard_id, about: about.to_s[0, 200],
                             place: visit[:place].to_s[0, 60], device: visit[:device].to_s[0, 60])
      end

      # What concerns an orchard, newest first: of the orchard itself, and of its members' sign-ins.
      def of(orchard, before: nil)
        members = Membership.in_sight.where(orchard_id: orchard.id).select(:account_id)
        rows = DB[:door_log].left_join(:accounts, id: :account_id).where(Sequel[:door_log][:orchard_id] => orchard.id)
                            .or(Sequel[:door_log][:orchard_id] => nil, Sequel[:door_log][:account_id] => members)
        rows = rows.where(Sequel[:door_log][:id] < before) if before
        rows.select_all(:door_log).select_append(Sequel[:accounts][:name]).order(Sequel.desc(Sequel[:door_log][:id]))
          .limit(PAGE).all
      end

      # One's own, newest first.
      def mine(account, most: 20) = DB[:door_log].where(account_id: account.id).order(Sequel.desc(:id)).limit(most).all

      # When someone signed in before the last time.
      #
      # @return [Time, nil]
      def sign_in_before(account)
        DB[:door_log].where(account_id: account.id, what: "signed-in").order(Sequel.desc(:id)).offset(1).get(:at)
      end

      def purge(now = Time.now.utc) = DB[:door_log].where { at < now - KEPT_DAYS * 86_400 }.delete
    end
  end
end
