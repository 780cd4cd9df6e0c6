# frozen_string_literal: true

require "bcrypt"
require "csv"

module Vestry
  module Deeds
    # The demo's people, one a role, whose passwords are no secret.
    module DemoPeople
      FILE = File.join(ROOT, "demo/people.csv")

      def self.all = CSV.read(FILE, headers: true).map(&:to_h)

      # Adds those that are not there yet.
      def self.settle
        all.each do |facts|
          account = Records::Account[Records::Account.id_by(facts["email"]) || 0] ||
                    Records::Account.create(name: facts["name"], email: facts["email"],
                                            password_hash: BCrypt::Password.create(facts["password"], cost: 6).to_s)
          facts["orchards"].split.each do |slug|
            orchard = Records::Orchard.called(slug) or next
            Records::Membership.find_or_create(orchard_id: orchard.id, account_id: account.id) do |row|
              row.role = facts["role"]
            end
          end
        end
      end
    end
  end
end
