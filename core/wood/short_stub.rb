# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # What could be done for a stub that goes short of sticks, most useful first.
      module ShortStub
        module_function

        # @param stub [Hash] +technique+, +stub_mm+, +cut_mm+ (from the fork), +short+ (sticks it lacks), +given+
        #   (sticks it has), +base_mm+ and +length_mm+ of its limb, and +cut_point+ (asked for where it matters, see
        #   Survey::CutPoint), +asked+ (see Plan::Methods, but for the stick)
        # @param own [Array<Hash>] sticks of its variety that are over: +label+, +diameter_mm+
        # @param others [Array<Hash>] sticks of others that are over: these with +variety+, a name, and +grows+, how
        #   that lives on this stock
        # @return [Array<Hash>] codes with their figures
        def ways(stub, own:, others:, rulebook:)
          own = own.uniq { |stick| stick[:diameter_mm] }
          if stub[:given].positive?
            # Sticks of its own are set already, and no other variety beside them.
            return [fewer(stub, rulebook), { code: "match_more_wood", sticks: stub[:short] }].compact
          end

          [elsewhere(stub, own, rulebook), another_method(stub, own, rulebook), another_variety(stub, others, rulebook),
           { code: "match_more_wood", sticks: stub[:short] }].compact
        end

        # What it has will do, unless one alone is too little for a stub so wide.
        def fewer(stub, rulebook)
          return nil if stub[:given] == 1 && stub[:stub_mm] > rulebook.value("reckoning.sticks.one_most")

          { code: "match_fewer", sticks: stub[:given] }
        end

        # Cut where the limb is as thick as a stick wants: by methods that match sizes.
        def elsewhere(stub, own, rulebook)
          return nil if own.empty? || rulebook.value("methods.#{stub[:technique]}.measure") != "ratio"

          cut = stub[:cut_point].call
          return nil unless cut[:feasible]

          found = own.map { |stick| placed(stub, stick, rulebook) }
            .select { |each| Near.within?(each[:at_mm], cut[:from_mm], cut[:to_mm]) }
            .min_by { |each| (each[:at_mm] - stub[:cut_mm]).abs }
          found && { code: "match_cut_elsewhere", **found }
        end

        # Where the limb is as thick as a stick wants it in the middle of what is ideal.
        def placed(stub, stick, rulebook)
          stock = stick[:diameter_mm] / (rulebook.value("methods.#{stub[:technique]}.scion_ideal").sum / 2.0)
          { stick: stick[:label], diameter_mm: stick[:diameter_mm], stock_mm: stock,
            at_mm: Survey::Taper.place(stub[:base_mm], stub[:length_mm], stock, rulebook) }
        end

        def another_method(stub, own, rulebook)
          own.each do |stick|
            best = Plan::Methods.reckon({ **stub[:asked], scion_mm: stick[:diameter_mm] },
                                        rulebook: rulebook)[:ranking]
              .find { |each| !each[:blocked] && each[:score].positive? && each[:method] != stub[:technique] }
            next unless best

            return { code: "match_other_method", method: best[:method], stick: stick[:label],
                     diameter_mm: stick[:diameter_mm] }
          end
          nil
        end

        def another_variety(stub, others, rulebook)
          found = others.find do |stick|
            %w[good workable].include?(stick[:grows]) &&
              Match.misfit(stub[:technique], stub[:stub_mm], stick[:diameter_mm], rulebook)
          end
          found && { code: "match_other_variety", variety: found[:variety], stick: found[:label] }
        end
        private_class_method :fewer, :elsewhere, :placed, :another_method, :another_variety
      end
    end
  end
end
