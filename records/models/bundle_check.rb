# frozen_string_literal: true

module Vestry
  module Records
    # What was found when a bundle was looked at.
    class BundleCheck < Sequel::Model(DB[:bundle_checks])
      many_to_one :bundle

      def only_weighed? = found == Bundle::TESTED && cut.nil? && forced.nil?

      # As the reckoning of viability takes it.
      def as_test
        { on: seen_on, cut: cut, forced: forced, forced_moved: forced_moved, weight_g: weight_g&.to_f,
          sticks: weighed_sticks }
      end
    end
  end
end
