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
          list :own, default: [].freeze, help: "what took in this orchard, on this kind of stock" do
            name :method, -> { Rulebook.shipped.stub_methods }
            integer :takes, least: 0, help: "stubs that took"
            integer :trials, least: 0, help: "stubs of which it is known"
            number :sticks, above: 0, default: 1.0, help: "on a stub, on average"
          end
        end

        # @return [Hash] +ranking+, a list of +method+, +score+ (0..100), +blocked+,
        #   +expected_take+ (share), +scion_wanted_mm+ (mm, nil where any will do) and +reasons+
        def self.call(stock_mm:, slipping:, species:, scion_mm: nil, school: nil, own: [], rulebook: Rulebook.shipped)
          takes = takes(species, own, rulebook)
          scored = rulebook.stub_methods.map do |method|
            score(method, stock_mm, scion_mm, slipping, species, school, takes[method], rulebook)
          end
          { ranking: scored.each_with_index.sort_by { |row, index| [row[:blocked] ? 1 : 0, -row[:score].round(9), index] }.map(&:first) }
        end

        # The share of single sticks expected to take.
        #
        # @return [Float] 0..1
        def self.expected_take(species, method, rulebook)
          most = rulebook.value("reckoning.score.most_take")
          [rulebook.value("species.#{species}.take") * rulebook.value("methods.#{method}.take_factor"), most].min.to_f
        end

        # What is expected of each method here. One that was tried is drawn towards what it did; one that
        # was not is expected to fall as far short of the book as those that were, or as little.
        #
        # @return [Hash{String=>Hash}] +take+ (share of single sticks) and +reasons+, by method
        def self.takes(species, own, rulebook)
          tried = own.select { |each| each[:trials].positive? }.to_h { |each| [each[:method], each] }
          told = rulebook.stub_methods.to_h do |method|
            book = expected_take(species, method, rulebook)
            mine = tried[method]
            take = mine ? Tally::Take.of_stick(book, **mine.slice(:takes, :trials, :sticks), rulebook: rulebook) : book
            said = { code: "expected_take", method: method, species: species, take: book }
            [method, { take: take, book: book, reasons: [said, *(mine && [{ code: "own_take", method: method, takes: mine[:takes], trials: mine[:trials], take: take }])] }]
          end
          tried.empty? ? told : others(told, tried, rulebook)
        end

        # Those nobody tried, by how the tried ones did against the book.
        def self.others(told, tried, rulebook)
          ratio = tried.sum { |method, each| each[:trials] * told[method][:take] } / tried.sum { |method, each| each[:trials] * told[method][:book] }
          most = rulebook.value("reckoning.score.most_take")
          told.to_h do |method, each|
            next [method, each] if tried.key?(method)

            take = [each[:book] * ratio, most].min.to_f
            [method, each.merge(take: take, reasons: each[:reasons] + [{ code: "own_others", method: method, ratio: ratio, take: take }])]
          end
        end

        # The scion's ideal and working range in mm for a stock of this size; nil where any will do.
        #
        # @return [Hash, nil] +works+ and +ideal+, each a pair in mm
        def self.scion_range(method, stock_mm, rulebook)
          works = rulebook.value_or_nil("methods.#{method}.scion_works") or return nil
          times = rulebook.value("methods.#{method}.measure") == "ratio" ? stock_mm : 1
          { works: works.map { |each| each * times }, ideal: rulebook.value("methods.#{method}.scion_ideal").map { |each| each * times } }
        end

        def self.score(method, stock_mm, scion_mm, slipping, species, school, expected, rulebook)
          reasons = []
          works = rulebook.value("methods.#{method}.stock_works")
          stock_trapezoid = trapezoid(stock_mm, works, rulebook.value_or_nil("methods.#{method}.stock_ideal"))
          reasons << range_reason("stock", method, stock_mm, works, rulebook.value_or_nil("methods.#{method}.stock_ideal"), stock_trapezoid)
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
          { method: method, score: blocked ? 0.0 : 100 * stock_trapezoid * scion_trapezoid * take * weight, blocked: blocked,
            expected_take: take, stock_trapezoid: stock_trapezoid, scion_trapezoid: scion_mm && scion ? scion_trapezoid : nil, school_weight: weight,
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
                 else trapezoid >= 1 ? "#{what}_ideal" : "#{what}_workable"
                 end
          range = trapezoid.nil? || ideal.nil? ? works : ideal
          { code: code, method: method, mm: value, from_mm: range[0], to_mm: range[1], trapezoid: trapezoid }
        end

        def self.scion_reason(method, scion_mm, scion, trapezoid)
          return { code: "scion_wanted", method: method, from_mm: scion[:ideal][0], to_mm: scion[:ideal][1] } unless scion_mm

          range_reason("scion", method, scion_mm, scion[:works], scion[:ideal], trapezoid)
        end

        def self.school_weight(method, school, rulebook, reasons)
          return 1.0 unless school

          prefers = rulebook.book("schools").dig("schools", school, "prefers").include?(method)
          reasons << { code: prefers ? "school_prefers" : "school_other", method: method, school: school }
          prefers ? 1.0 : rulebook.value("reckoning.score.other_school").to_f
        end
        private_class_method :takes, :others, :score, :trapezoid, :range_reason, :scion_reason, :school_weight
      end
    end
  end
end
