# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # Which methods suit a stub, best first, and why.
      #
      # score = 100 x stock trapezoid x scion trapezoid x expected take x school weight. A trapezoid is 1
      # inside the ideal range and falls evenly to 0 at the working edges. What took in the orchard itself
      # draws the expected take towards it, the more the more was counted (Tally::Take).
      module Methods
        extend Reckoning

        contract "methods", "Methods for a stub, best first, with reasons" do
          number :stock_mm, unit: "mm", above: 0, help: "diameter of the stock at the cut or the site"
          number :scion_mm, unit: "mm", above: 0, optional: true, help: "diameter of the stick on hand"
          flag :slipping, help: "whether the bark lifts cleanly"
          name :species, -> { Rulebook.shipped.species_names }, help: "of the stock"
          name :school, -> { Rulebook.shipped.school_names }, optional: true
          list :own, default: [].freeze,
                     help: "what took in this orchard, on this kind of stock; methods of one kin count together" do
            name :method, -> { Rulebook.shipped.stub_methods }
            integer :takes, least: 0, help: "stubs that took"
            integer :trials, least: 0, help: "stubs of which it is known"
            rising :takes, :trials
            number :sticks, least: 1, most: 12, default: 1.0, help: "on a stub, on average"
          end
        end

        # @return [Hash] +ranking+, a list of +method+, +score+ (0..100), +blocked+,
        #   +expected_take+ (share), +scion_wanted_mm+ (mm, nil where any will do) and +reasons+
        def self.call(stock_mm:, slipping:, species:, scion_mm: nil, school: nil, own: [], rulebook: Rulebook.shipped)
          takes = takes(species, own, rulebook)
          scored = rulebook.stub_methods.map do |method|
            score(method, stock_mm, scion_mm, slipping, school, takes[method], rulebook)
          end
          { ranking: scored.each_with_index.sort_by { |row, index| [row[:blocked] ? 1 : 0, -row[:score].round(9),
              index] }.map(&:first) }
        end

        # The share of single sticks expected to take.
        #
        # @return [Float] 0..1
        def self.expected_take(species, method, rulebook)
          most = rulebook.value("reckoning.score.most_take")
          [rulebook.value("species.#{species}.take") * rulebook.value("methods.#{method}.take_factor"), most].min.to_f
        end

        # What is expected of each method here. One whose kin was tried is drawn towards what that did; one
        # whose kin was not is expected to fall as far short of the book as those that were, or as little.
        #
        # @return [Hash{String=>Hash}] +take+ (share of single sticks) and +reasons+, by method
        def self.takes(species, own, rulebook)
          known = own.select { |each| each[:trials].positive? }
          kin = ->(method) { rulebook.method_fact(method, "kin") }
          tried = known.group_by { |each| kin[each[:method]] }.transform_values { |rows| pooled(rows) }
          expected = rulebook.stub_methods.to_h do |method|
            [method, expected_of(method, species, tried[kin[method]], rulebook)]
          end
          known.empty? ? expected : others(expected, known, rulebook)
        end

        # The counts of a kin's methods as one.
        def self.pooled(rows)
          trials = rows.sum { |each| each[:trials] }
          { takes: rows.sum { |each| each[:takes] }, trials: trials,
            sticks: rows.sum { |each| each[:sticks] * each[:trials] } / trials.to_f }
        end

        def self.expected_of(method, species, mine, rulebook)
          book = expected_take(species, method, rulebook)
          reasons = [{ code: "expected_take", method: method, species: species, take: book }]
          return { take: book, book: book, reasons: reasons, tried: false } unless mine

          take = [Tally::Take.of_stick(book, **mine, rulebook: rulebook), rulebook.value("reckoning.score.most_take")]
            .min.to_f
          { take: take, book: book, tried: true, reasons: reasons +
            [{ code: "own_take", method: method, **mine.slice(:takes, :trials), take: take }] }
        end

        # Those of a kin that nobody tried, by how the tried ones did against the book; every stub counts once.
        def self.others(expected, known, rulebook)
          against = ->(what) { known.sum { |each| each[:trials] * expected[each[:method]][what] } }
          ratio = against[:take] / against[:book]
          most = rulebook.value("reckoning.score.most_take")
          expected.transform_values.with_index do |each, place|
            next each if each[:tried]

            take = [each[:book] * ratio, most].min.to_f
            each.merge(take: take, reasons: each[:reasons] +
                       [{ code: "own_others", method: expected.keys[place], ratio: ratio, take: take }])
          end
        end

        # The scion's ideal and working range in mm for a stock of this size; nil where any will do.
        #
        # @return [Hash, nil] +works+ and +ideal+, each a pair in mm
        def self.scion_range(method, stock_mm, rulebook)
          works = rulebook.value_or_nil("methods.#{method}.scion_works") or return nil
          ideal = rulebook.value_or_nil("methods.#{method}.scion_ideal") || works
          times = rulebook.value_or_nil("methods.#{method}.measure") == "ratio" ? stock_mm : 1
          { works: works.map { |each| each * times }, ideal: ideal.map { |each| each * times } }
        end

        def self.score(method, stock_mm, scion_mm, slipping, school, expected, rulebook)
          reasons = []
          works = rulebook.value("methods.#{method}.stock_works")
          stock_trapezoid = trapezoid(stock_mm, works, rulebook.value_or_nil("methods.#{method}.stock_ideal"))
          reasons << range_reason("stock", method, stock_mm, works,
                                  rulebook.value_or_nil("methods.#{method}.stock_ideal"), stock_trapezoid)
          scion = scion_range(method, stock_mm, rulebook)
          scion_trapezoid = scion_mm && scion ? trapezoid(scion_mm, scion[:works], scion[:ideal]) : 1.0
          reasons << scion_reason(method, scion_mm, scion, scion_trapezoid) if scion
          needs_slip = rulebook.value("methods.#{method}.needs_slip")
          reasons << { code: "needs_slip", method: method } if needs_slip && !slipping
          reasons << { code: "needs_no_slip", method: method } if !needs_slip && !slipping
          take = expected[:take]
          reasons.concat(expected[:reasons])
          weight = school_weight(method, school, rulebook, reasons)
          blocked = stock_trapezoid.nil? || scion_trapezoid.nil? || (needs_slip && !slipping)
          { method: method, score: blocked ? 0.0 : 100 * stock_trapezoid * scion_trapezoid * take * weight,
            blocked: blocked,
            expected_take: take, stock_trapezoid: stock_trapezoid, scion_trapezoid: scion_mm && scion ?
            scion_trapezoid : nil, school_weight: weight,
            scion_wanted_mm: scion && scion[:ideal], reasons: reasons }
        end

        # @return [Float, nil] nil outside the working range
        def self.trapezoid(value, works, ideal)
          low, high = works
          return nil unless Near.at_least?(value, low) && (high.nil? || Near.at_most?(value, high))
          return 1.0 if ideal.nil? || Near.within?(value, *ideal)

          value < ideal[0] ? [(value - low) / (ideal[0] - low), 0.0].max : [(high - value) / (high - ideal[1]), 0.0].max
        end

        def self.range_reason(what, method, value, works, ideal, trapezoid)
          code = if trapezoid.nil? then "#{what}_outside"
                 else
                   trapezoid >= 1 ? "#{what}_ideal" : "#{what}_workable"
                 end
          range = trapezoid.nil? || ideal.nil? ? works : ideal
          { code: code, method: method, mm: value, from_mm: range[0], to_mm: range[1], trapezoid: trapezoid }
        end

        def self.scion_reason(method, scion_mm, scion, trapezoid)
          unless scion_mm
            return { code: "scion_wanted", method: method, from_mm: scion[:ideal][0], to_mm: scion[:ideal][1] }
          end

          range_reason("scion", method, scion_mm, scion[:works], scion[:ideal], trapezoid)
        end

        def self.school_weight(method, school, rulebook, reasons)
          return 1.0 unless school

          prefers = rulebook.book("schools").dig("schools", school, "prefers").include?(method)
          reasons << { code: prefers ? "school_prefers" : "school_other", method: method, school: school }
          prefers ? 1.0 : rulebook.value("reckoning.score.other_school").to_f
        end
        private_class_method :takes, :pooled, :expected_of, :others, :score, :trapezoid, :range_reason, :scion_reason,
                             :school_weight
      end
    end
  end
end
