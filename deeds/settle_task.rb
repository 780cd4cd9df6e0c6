# frozen_string_literal: true

module Vestry
  module Deeds
    # A task of a graft or of a wound is done, waived or put off by a person; pressing twice settles
    # it once.
    module SettleTask
      WHATS = %w[done waived put-off].freeze

      # @param of [Records::Graft, Records::Wound]
      # @param until_on [Date, nil] for what is put off
      # @raise [Refused]
      def self.call(of, key, what, by:, today:, why: nil, until_on: nil)
        check(of, key, what, today)
        check_put_off(until_on, why, today) if what == "put-off"
        DB.transaction do
          HeadAbove.hold(of, key) if what == "done"
          of.locked
          settled = Records::TaskDone.settled(owner(of), key)
          # What was put off may be done after all, or put off once more.
          Ledger.hide(settled, by: by) if settled&.what == "put-off"
          next settled if settled && settled.what != "put-off"

          HeadAbove.call(of, key, by: by, today: today) if what == "done"
          Ledger.add(Records::TaskDone, { orchard_id: of.orchard_id, **owner(of), key: key, what: what, done_on: today,
                                          done_by: by, why: why,
                                          until_on: what == "put-off" ? until_on : nil }, by: by)
        end
      end

      def self.check(of, key, what, today)
        unless tasks(of, today).any? { |each| each[:key] == key }
          raise Refused, key: ["That is not asked of it, or not any more: nothing is to be done."]
        end
        raise Refused, what: ["is done, waived or put off"] unless WHATS.include?(what)

        refuse_bare_word(of, key) if what == "done"
      end

      # What a press says nothing of, and is done where it is written down.
      ELSEWHERE = { "plan" => "is done by planning it again", "count" => "is done by counting it",
                    "log" => "is done by logging it", "set" => "is done by logging what was set",
                    "look" => "is done by saying what was seen" }.freeze
      private_constant :ELSEWHERE

      def self.refuse_bare_word(of, key)
        rule = of.orchard.rulebook.task(key.split(":").first)
        by = Core::Tend::Rules.done_by(rule) or return
        place = of.is_a?(Records::Graft) ? of.limb.label : of.label
        raise Refused, what: ["#{place}, #{rule['title'].downcase}: this #{ELSEWHERE.fetch(by)}"]
      end

      # Several alike: all of them, or none; in one order, so that two who settle the same wait once.
      #
      # @param chosen [Array] pairs of what a task is of, and its key
      def self.all(chosen, what, **more)
        ordered = chosen.sort_by { |of, key| [of.class.name, of.id, key] }
        DB.transaction { ordered.each { |of, key| call(of, key, what, **more) } }
      end

      # Takes back what was settled.
      def self.undo(of, key, by:)
        DB.transaction do
          HeadAbove.hold(of, key)
          of.locked
          row = Records::TaskDone.settled(owner(of), key) or next
          HeadAbove.undo(of, key, by: by) if row.what == "done"
          Ledger.hide(row, by: by)
        end
      end

      def self.tasks(of, today)
        of.is_a?(Records::Wound) ? Records::WoundReport.new(of, today).mending[:tasks] :
          Records::CoreInputs.care(of, today)[:tasks]
      end

      def self.owner(of) = of.is_a?(Records::Wound) ? { wound_id: of.id } : { graft_id: of.id }

      def self.check_put_off(until_on, why, today)
        errors = {}
        unless until_on && until_on > today && until_on <= today + 366
          errors[:until_on] = ["is a day after today, within a year"]
        end
        errors[:why] = ["say why it is put off"] if why.to_s.strip.empty?
        raise Refused, errors if errors.any?
      end
      private_class_method :check, :tasks, :owner, :check_put_off
    end
  end
end
