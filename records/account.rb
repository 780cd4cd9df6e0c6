# frozen_string_literal: true

module Vestry
  module Records
    # A person who signs in.
    class Account < Sequel::Model(DB[:accounts])
      one_to_many :memberships, conditions: { hidden_at: nil }

      # @return [String, nil] their role in this orchard
      def role_in(orchard) = Worded.ask(:role, id, orchard.id) { Membership.in_sight.where(account_id: id, orchard_id: orchard.id).select(:role) }.first&.fetch(:role)

      # Where they are signed in, latest first: +created_at+ and +last_use+.
      def sign_ins = DB[:account_active_session_keys].where(account_id: id).order(Sequel.desc(:last_use)).all

      def orchards = Worded.rows(:orchards, id) { Orchard.in_sight.where(id: Membership.in_sight.where(account_id: id).select(:orchard_id)).order(:name) }.all
    end
  end
end
