# frozen_string_literal: true

require "bcrypt"
require "csv"
require "json"

module Vestry
  module Deeds
    # The demo's people, whose passwords are no secret, and what the newest of them has practised.
    module DemoPeople
      FILE, PRACTICE = %w[people practice].map { |name| File.join(ROOT, "demo/#{name}.csv") }

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
        practise
      end

      # The tries of those who have none yet, judged as they are when they are made; their stewards see them.
      def self.practise
        CSV.read(PRACTICE, headers: true).group_by { |try| try["email"] }.each do |email, tries|
          account = Records::Account[Records::Account.id_by(email) || 0]
          next if account.nil? || Records::PracticeTry.of(account).any?

          account.orchards.each { |orchard| Practise.show(account, orchard, true) }
          tries.each { |try| try_once(account, try) }
        end
      end

      def self.try_once(account, try)
        Practise.call(account, try["exercise"], seed: try["seed"].to_i, level: try["level"].to_i,
                      answer: JSON.parse(try["answer"], symbolize_names: true), today: Date.iso8601(try["day"]),
                      rulebook: Core::Rulebook.shipped)
      end
      private_class_method :practise, :try_once
    end
  end
end
