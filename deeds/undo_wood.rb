# frozen_string_literal: true

module Vestry
  module Deeds
    # Undoes what was done to a bundle: sticks that went lie in it again, those that came are gone, what was found was
    # not, and it lies where it lay. By what history says of it, while that still stands so.
    module UndoWood
      module_function

      # @param line [Hash] of history
      def knows?(line)
        line[:table_name] == "bundles" && line[:before].nil? && !step(line).nil?
      end

      # @return [Boolean] whether it could be
      def call(bundle, line, by:, why:)
        DB.transaction do
          bundle.locked
          done = public_send(step(line), bundle, line[:after].to_h)
          Ledger.event(bundle, { why => line[:after].to_h.keys.first }, by: by) if done
          done
        end
      end

      # A bundle that was tied or split off by mistake, while all its sticks lie in it and nothing else is told of it.
      #
      # @return [Boolean] whether it could be
      def untie(bundle, by:, why:)
        DB.transaction do
          bundle.parent&.locked
          held = bundle.locked
          next false unless held.sticks.all?(&:here?) && Records::HistoryQueries.only_added?(held)

          bundle.parent ? Records::Stick.join(held, bundle.parent) : Records::StickLocks.free_sticks(held.sticks)
          Ledger.hide(held, by: by, why: why) && true
        end
      end

      # What each kind of deed names in its line, and how it is undone.
      STEPS = { "lent" => :lie_again, "discarded" => :lie_again, "received" => :go_again, "check" => :unfind,
                "stay" => :lie_before, "into a bridge" => :out_of_bridge, "split" => :whole_again }.freeze
      # What can be undone only where history says which sticks.
      NUMBERED = ['lent', 'discarded', 'received', "into a bridge"].freeze
      private_constant :STEPS, :NUMBERED

      def step(line)
        after = line[:after].to_h
        name = STEPS.keys.find { |key| after.key?(key) }
        STEPS[name] if name && (!NUMBERED.include?(name) || after["numbers"])
      end

      def lie_again(bundle, after)
        why = %w[lent discarded].find { |name| after.key?(name) }
        Records::Stick.lie_again(bundle, after["numbers"], why)
      end

      def go_again(bundle, after) = Records::Stick.never_came(bundle, after["numbers"])
      # Its sticks lie in it again under their own numbers, while the part that was split off holds all of them.
      def whole_again(bundle, after)
        part = Records::Bundle.of_orchard!(bundle.orchard, after["part"]).locked
        Records::Stick.put_back(part, bundle, after["numbers"])
      end

      def out_of_bridge(bundle, after) = Records::Stick.never_set(bundle, after["numbers"])
      def unfind(bundle, after) = bundle.drop_check(after["check"])
      def lie_before(bundle, after) = bundle.drop_stay(after["stay"])
      private_class_method :step
    end
  end
end
