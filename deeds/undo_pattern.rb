# frozen_string_literal: true

module Vestry
  module Deeds
    # Takes the planning of whole rows back: a tree that had a plan before has it again, any other has none. A tree
    # whose plan was changed since, or whose limbs were worked where there is no earlier plan to hold them, stays.
    module UndoPattern
      # @return [Array<String>] labels of trees that stay
      # @raise [Refused] while it is under way
      def self.call(pattern, by:)
        raise Refused, pattern: ["is still under way: wait for its end"] unless pattern.over?

        laid = pattern.outcomes.select { |each| each["done"] && each["plan"] }
        laid.each_slice(LayPattern::SLICE).flat_map { |some| slice(pattern, some, by) }
      end

      # A slice and the word of it are written together; of two who take back at once one waits, and finds it done.
      def self.slice(pattern, some, by)
        DB.transaction do
          held = pattern.lock!
          Records::TreeQueries.hold(some.map { |each| each["tree"] }.sort)
          still = held.outcomes.select { |each| each["done"] && some.any? { |one| one["tree"] == each["tree"] } }
          back, stay = still.partition { |each| taken_back?(each, by) }
          held.update(outcome: held.outcomes.map { |each| back.include?(each) ? undone(each) : each })
          stay.map { |each| each["label"] }
        end
      end

      def self.undone(outcome) = outcome.merge("done" => false, "notes" => [{ "code" => "pattern_taken_back" }])

      def self.taken_back?(outcome, by)
        plan = Records::Plan.in_use(outcome["plan"])
        return false if plan.nil? || plan.changed_since_begun?

        earlier = outcome["was"] && Records::Plan[outcome["was"]]
        return NewVersion.again(plan.tree, earlier, by: by) && true if earlier
        return false if plan.worked?

        Ledger.change(plan, { superseded_at: Time.now.utc }, by: by, why: "the planning of whole rows was taken back")
        true
      end
      private_class_method :slice, :undone, :taken_back?
    end
  end
end
