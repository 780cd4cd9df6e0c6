# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # Cuts of one kind on a real bench, as a control chart: which of the latest are as they should be, and whether the
      # hand is ready.
      module CutLog
        KINDS = %w[face wedge tongue].freeze

        module_function

        # @param cuts [Array<Hash>] in order, each +length_mm+, +rocks+ and +daylight+ (seen between the faces), and
        #   where it was measured +depth_mm+ of a stick +across_mm+ thick
        # @return [Hash] +cuts+, the latest reckoning.cut_log.of, each with +inside+; +inside+, how many are; +ready+;
        #   +from_mm+ and +to_mm+
        def of(kind, cuts, rulebook: Rulebook.shipped)
          book = ->(key) { rulebook.value("reckoning.cut_log.#{key}") }
          from, to = book["lengths"].fetch(kind)
          latest = cuts.last(book["of"]).map do |cut|
            cut.merge(inside: cut[:length_mm].between?(from, to) && !cut[:rocks] && !cut[:daylight] &&
                              half?(kind, cut, book["half"]))
          end
          inside = latest.count { |cut| cut[:inside] }
          { cuts: latest, inside: inside, from_mm: from, to_mm: to, ready: inside >= book["ready"] }
        end

        # A long face takes half of its stick.
        def half?(kind, cut, within)
          return true unless kind == "face" && cut[:depth_mm]

          Near.at_most?((cut[:depth_mm] / cut[:across_mm] - 0.5).abs, within)
        end
        private_class_method :half?
      end
    end
  end
end
