# frozen_string_literal: true

module Vestry
  module Records
    # One try at an exercise: whose it was, and what it came to.
    class PracticeTry < Sequel::Model(DB[:practice_tries])
      many_to_one :account
      # So many are read of a person.
      MOST = 2000

      # In order; the first at each seed alone tells what a person sees unaided.
      def self.of(account) = where(account_id: account.id).order(Sequel.desc(:id)).limit(MOST).all.reverse

      # @param asked [Hash] +exercise+, +seed+ and +level+
      # @param outcome [Hash] +score+, +passed+, +answer+, +own+, +day+ and +client_key+
      def self.keep(account, asked, outcome)
        same = { account_id: account.id, **asked }
        create(**same, **outcome, answer: Sequel.pg_jsonb(outcome[:answer]),
                               own: outcome[:own] && Sequel.pg_jsonb(outcome[:own]),
                               nth: where(same).max(:nth).to_i + 1)
      end

      # One that was kept under a form's key; nil where it has none.
      def self.under(account, key) = key && first(account_id: account.id, client_key: key)

      # One of a person's own.
      #
      # @raise [Missing]
      def self.own!(account, id)
        first(account_id: account.id, id: RowNumber.read(id)) || raise(Missing, "no such try of yours")
      end

      # The exercise and the answer, as the reckoning takes them.
      def question
        { seed: seed, level: level, answer: plain_json(answer), **(own ? { own: plain_json(own) } : {}) }
      end

      def plain_json(value) = JSON.parse(JSON.generate(value), symbolize_names: true)

      # Those of others in an orchard who let its stewards see them.
      #
      # @return [Hash{Membership=>Array<PracticeTry>}]
      def self.shown_in(orchard, except:)
        members = Membership.in_sight.where(orchard_id: orchard.id, practice_shown: true)
          .exclude(account_id: except.id).eager(:account).all
        tries = where(account_id: members.map(&:account_id)).order(:id).all.group_by(&:account_id)
        members.to_h { |member| [member, tries.fetch(member.account_id, [])] }
      end

      # As Core::Practice::Next takes it.
      def plain = { exercise: exercise, level: level, passed: passed, on: day }
      def first? = nth == 1
    end
  end
end
