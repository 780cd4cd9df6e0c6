# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # Where a limb may be cut for a method, and where best.
      #
      # A limb is taken to taper evenly: d(s) = d0 - k s, with s mm from the fork. Each limit
      # (clear of the fork, a diameter the method works, above the grazing line, within reach, above a nurse
      # that stays and a branch that is grafted, below a stub that died) holds on one stretch of the limb; the cut lies
      # where all of them hold, and in none of the gaps that branches' forks and unsound wood leave in it.
      module CutPoint
        extend Reckoning

        NAMES = %w[clearance diameter browse reach].freeze

        contract "cut-point", "Where a limb may be cut for a method, and where best" do
          number :base_diameter_mm, unit: "mm", above: 0, help: "at the fork"
          number :length_mm, unit: "mm", above: 0
          number :whole_mm, unit: "mm", above: 0, optional: true,
                            help: "how long it grew, where it was cut or broke since: by that it tapers"
          record :measured, optional: true, help: "a second diameter further out; else the usual taper" do
            number :at_mm, unit: "mm", above: 0, help: "from the fork"
            number :diameter_mm, unit: "mm", above: 0
          end
          number :fork_height_mm, unit: "mm", least: 0, help: "height of the fork above the ground"
          number :rise_deg, unit: "degrees", least: -90, most: 90, help: "above the level; 90 is upright"
          name :method, -> { Rulebook.shipped.stub_methods }
          number :lowest_mm, unit: "mm", least: 0, optional: true, help: "height the cut must be above"
          number :highest_mm, unit: "mm", least: 0, optional: true, help: "height the cut must be below"
          number :stub_mm, unit: "mm", above: 0, optional: true,
                           help: "its highest fresh wood, where a stub on it died; from the fork"
          list :branches, default: [].freeze, help: "that grow from it" do
            number :fork_at_mm, unit: "mm", least: 0, help: "from its own fork"
            number :diameter_mm, unit: "mm", above: 0
            flag :nurse, default: false, help: "stays as a nurse"
            flag :grafted, default: false, help: "carries a graft, or is to"
          end
          list :unsound, default: [].freeze, help: "bent, damaged or decayed stretches" do
            number :from_mm, unit: "mm", least: 0
            number :to_mm, unit: "mm", least: 0
            rising :from_mm, :to_mm
          end
        end

        # @return [Hash] +feasible+; +from_mm+, +to_mm+ and the preferred +at_mm+ along the limb,
        #   +diameter_mm+ and +height_mm+ there; +limits+, each with its own stretch or nil; +gaps+ inside
        #   them, each +from_mm+, +to_mm+ and +name+ (branches or unsound); and +conflict+, the names of a smallest set
        #   of limits, or of gaps, that leave no place
        # @raise [BadInput] on +measured+ when the limb would not taper, on +whole_mm+ when more is left than grew
        def self.call(base_diameter_mm:, length_mm:, fork_height_mm:, rise_deg:, method:, whole_mm: nil, measured: nil,
                      lowest_mm: nil, highest_mm: nil, stub_mm: nil, branches: [], unsound: [],
                      rulebook: Rulebook.shipped)
          taper = taper(base_diameter_mm, grown(length_mm, whole_mm), measured, rulebook)
          works = rulebook.value("methods.#{method}.stock_works")
          climb = Math.sin(rise_deg * Math::PI / 180)
          stretches = {
            "clearance" => [clearance(base_diameter_mm, rulebook), length_mm],
            "diameter" => [works[1] ? (base_diameter_mm - works[1]) / taper : 0.0,
                           (base_diameter_mm - works[0]) / taper],
            "browse" => above(lowest_mm, fork_height_mm, climb),
            "reach" => below(highest_mm, fork_height_mm, climb), **kept(branches, length_mm, rulebook),
            **(stub_mm ? { "stub" => [0.0, stub_mm] } : {})
          }
          limits = stretches.map { |name, stretch| limit(name, stretch, length_mm) }
          answer(limits, gaps(branches, unsound, rulebook), ideal(method, rulebook),
                 base: base_diameter_mm, taper: taper, fork: fork_height_mm, climb: climb)
        end

        # Above the highest nurse that grows from it, by as much as it needs to be fed; and above the highest branch
        # that is grafted, whose fork leaves its own gap.
        def self.kept(branches, length, rulebook)
          { nurse: rulebook.value("reckoning.cut.above_nurse"), grafted: 0.0 }.filter_map do |as, above|
            highest = branches.select { |each| each[as] }.map { |each| each[:fork_at_mm] }.max
            [as.to_s, [highest + above, length]] if highest
          end.to_h
        end

        # Where no cut is made: about the forks of branches, and in unsound wood.
        def self.gaps(branches, unsound, rulebook)
          clear = rulebook.value("reckoning.cut.clearance_diameters")
          (branches.map do |each|
            half = clear * each[:diameter_mm]
            { name: "branches", from_mm: each[:fork_at_mm] - half, to_mm: each[:fork_at_mm] + half }
          end + unsound.map { |each| { name: "unsound", **each } }).sort_by { |gap| gap[:from_mm] }
        end

        # How long the limb grew, by which it tapers.
        def self.grown(length, whole)
          return length if whole.nil?
          raise BadInput.new("whole_mm", "#{length.round(1)} or more, for so much is left") if whole < length

          whole
        end

        # The loss of diameter per mm of limb.
        def self.taper(base, length, measured, rulebook)
          return Taper.loss(base, length, rulebook) unless measured

          slope = (base - measured[:diameter_mm]) / measured[:at_mm]
          unless slope.positive?
            raise BadInput.new("measured",
                               "a diameter_mm below #{base.round(1)}, the diameter at the fork: a limb tapers")
          end

          slope
        end

        def self.clearance(base, rulebook)
          [rulebook.value("reckoning.cut.clearance"), rulebook.value("reckoning.cut.clearance_diameters") * base].max
            .to_f
        end

        # The middle of the ideal range, or of the working range where there is no ideal.
        def self.ideal(method, rulebook)
          range = rulebook.value_or_nil("methods.#{method}.stock_ideal") ||
            rulebook.value("methods.#{method}.stock_works")
          (range[0] + range[1]) / 2.0
        end

        # The stretch on which fork + s * climb >= height.
        def self.above(height, fork, climb) = half_line(height, fork, climb, 1)

        # The stretch on which fork + s * climb <= height.
        def self.below(height, fork, climb) = half_line(height, fork, climb, -1)

        def self.half_line(height, fork, climb, side)
          everywhere = [0.0, Float::INFINITY]
          return everywhere if height.nil?

          rising = climb * side
          return (Near.at_least?(fork * side, height * side) ? everywhere : nil) if climb.abs <= Near::TOLERANCE

          edge = (height - fork) / climb
          rising.positive? ? [edge, Float::INFINITY] : [-Float::INFINITY, edge]
        end

        def self.limit(name, stretch, length)
          from = stretch && [stretch[0], 0.0].max
          to = stretch && [stretch[1], length].min
          holds = stretch && Near.at_most?(from, to)
          { name: name, from_mm: holds ? from : nil, to_mm: holds ? [from, to].max : nil }
        end

        def self.answer(limits, gaps, ideal, base:, taper:, fork:, climb:)
          from, to = common(limits)
          return nowhere(limits, gaps, conflict(limits)) unless from

          at = nearest((base - ideal) / taper, from, to, gaps) or
            return nowhere(limits, gaps, gaps.map { |gap| gap[:name] }.uniq)
          { feasible: true, from_mm: from, to_mm: to, at_mm: at, diameter_mm: base - taper * at,
            height_mm: fork + at * climb, limits: limits,
            gaps: gaps.select { |gap| gap[:to_mm] > from && gap[:from_mm] < to }, conflict: [] }
        end

        # The stretch on which all limits hold; nil where there is none.
        def self.common(limits)
          from = limits.map { |each| each[:from_mm] || Float::INFINITY }.max
          to = limits.map { |each| each[:to_mm] || -Float::INFINITY }.min
          Near.at_most?(from, to) ? [from, [from, to].max] : nil
        end

        # The place next to the wanted one that lies in no gap; nil where there is none.
        def self.nearest(wanted, from, to, gaps)
          wanted = wanted.clamp(from, to)
          beside(gaps, from, to).map { |low, high| wanted.clamp(low, high) }.min_by { |place| (place - wanted).abs }
        end

        def self.nowhere(limits, gaps, conflict)
          { feasible: false, from_mm: nil, to_mm: nil, at_mm: nil, diameter_mm: nil, height_mm: nil, limits: limits,
            gaps: gaps, conflict: conflict }
        end

        # What the gaps leave of a stretch, edges included.
        #
        # @return [Array<Array(Float, Float)>]
        def self.beside(gaps, from, to)
          found = []
          gaps.each do |gap|
            found << [from, [gap[:from_mm], to].min] if gap[:from_mm] >= from
            from = [from, gap[:to_mm]].max
          end
          found << [from, to]
          found.select { |low, high| low <= high }
        end

        # Stretches of a line hold together when each two of them do (Helly), so a smallest
        # conflict is one limit or two.
        def self.conflict(limits)
          alone = limits.find { |each| each[:from_mm].nil? }
          return [alone[:name]] if alone

          pair = limits.combination(2).find do |one, other|
            !Near.at_most?([one[:from_mm], other[:from_mm]].max, [one[:to_mm], other[:to_mm]].min)
          end
          pair.map { |each| each[:name] }
        end
        private_class_method :taper, :grown, :clearance, :ideal, :above, :below, :half_line, :limit, :answer, :conflict,
                             :kept, :gaps, :common, :nearest, :nowhere, :beside
      end
    end
  end
end
