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

        PLACES = %w[end side shoot].freeze

        contract "methods", "Methods for a stub, best first, with reasons" do
          number :stock_mm, unit: "mm", above: 0, help: "diameter of the stock at the cut or the site"
          number :scion_mm, unit: "mm", above: 0, optional: true, help: "diameter of the stick on hand"
          flag :slipping, help: "whether the bark lifts cleanly"
          name :species, -> { Rulebook.shipped.species_names }, help: "of the stock"
          name :school, -> { Rulebook.shipped.school_names }, optional: true
          name :place, PLACES, default: "end", help: "the end of a stub, the side of what stays, or a young shoot"
          flag :donor, default: false, help: "whether a rooted donor stands beside it"
          list :own, default: [].freeze,
                     help: "what took in this orchard, on this kind of stock; methods of one kin count together" do
            name :method, -> { Rulebook.shipped.stub_methods }
            integer :takes, least: 0, help: "stubs that took"
            integer :trials, least: 0, help: "stubs of which it is known"
            rising :takes, :trials
            number :sticks, least: 1, most: 12, default: 1.0, help: "on a stub, on average"
          end
        end

        # @return [Hash] +ranking+, a list of +method+, +score+ (0..100), +blocked+, +most_sticks+,
        #   +expected_take+ (share), +scion_wanted_mm+ (mm, nil where any will do) and +reasons+
        def self.call(stock_mm:, slipping:, species:, scion_mm: nil, school: nil, place: "end", donor: false, own: [],
                      rulebook: Rulebook.shipped)
          takes = takes(species, own, rulebook)
          asked = { stock_mm: stock_mm, scion_mm: scion_mm, slipping: slipping, school: school, place: place,
                    donor: donor }
          scored = rulebook.stub_methods.map { |method| score(method, asked, takes[method], rulebook) }
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

        # How what was tried did against the book; nil where by the book none of it ever takes.
        def self.against_book(expected, known)
          take, book = %i[take book].map do |what|
            known.sum { |each| each[:trials] * expected[each[:method]][what] }
          end
          take / book if book.positive?
        end

        # Those of a kin that nobody tried, by how the tried ones did against the book; every stub counts once.
        def self.others(expected, known, rulebook)
          ratio = against_book(expected, known) or return expected
          most = rulebook.value("reckoning.score.most_take")
          expected.transform_values.with_index do |each, place|
            next each if each[:tried]

            take = [each[:book] * ratio, most].min.to_f
            each.merge(take: take, reasons: each[:reasons] +
                       [{ code: "own_others", method: expected.keys[place], ratio: ratio, take: take }])
          end
        end

        # The scion's ideal and working range in mm for a stock of this size; nil where any will do. Thin stock may be
        # cleft where stick and stock are of a size.
        #
        # @return [Hash, nil] +works+ and +ideal+, each a pair in mm
        def self.scion_range(method, stock_mm, rulebook)
          thin = thin?(method, stock_mm, rulebook)
          works = rulebook.value_or_nil("methods.#{method}.#{thin ? 'thin_works' : 'scion_works'}") or return nil
          ideal = rulebook.value_or_nil("methods.#{method}.#{thin ? 'thin_ideal' : 'scion_ideal'}") || works
          times = thin || rulebook.value_or_nil("methods.#{method}.measure") == "ratio" ? stock_mm : 1
          { works: works.map { |each| each * times }, ideal: ideal.map { |each| each * times } }
        end

        # A stock to draw a method on: a young shoot for a bud, else what was measured, or a limb as most are.
        #
        # @param measured_mm [Float, nil]
        # @return [Float]
        def self.drawn_stock(method, measured_mm, rulebook)
          if rulebook.works_at?(method, "shoot")
            return rulebook.value("reckoning.wood.pencil").to_f.clamp(*rulebook.value("methods.#{method}.stock_works"))
          end

          (measured_mm || rulebook.value("reckoning.cuts.usual_stock")).to_f
        end

        # How well a stock suits a method.
        #
        # @param stock_mm [Numeric] across
        # @return [Float] 1 inside its ideal range, falling to 0 at the ends of its working range and beyond
        def self.stock_fit(method, stock_mm, rulebook)
          trapezoid(stock_mm, rulebook.value("methods.#{method}.stock_works"),
                    rulebook.value_or_nil("methods.#{method}.stock_ideal")) || 0.0
        end

        # Whether the stock is so thin that the method wants a stick of its own size.
        def self.thin?(method, stock_mm, rulebook)
          below = rulebook.value_or_nil("methods.#{method}.thin_below")
          !below.nil? && stock_mm < below - Near::TOLERANCE
        end

        def self.score(method, asked, expected, rulebook)
          stock, reasons = of_stock(method, asked[:stock_mm], rulebook)
          scion, of_scion = of_scion(method, asked, rulebook)
          bars, remarks = bars(method, asked, rulebook)
          reasons += of_scion + bars + remarks + expected[:reasons]
          weight = school_weight(method, asked[:school], rulebook, reasons)
          blocked = stock.nil? || scion.nil? || bars.any?
          { method: method, blocked: blocked, score: blocked ? 0.0 : 100 * stock * scion * expected[:take] * weight,
            expected_take: expected[:take], most_sticks: rulebook.value("methods.#{method}.most_sticks"),
            stock_trapezoid: stock, scion_trapezoid: asked[:scion_mm] && of_scion.any? ? scion : nil,
            school_weight: weight, scion_wanted_mm: scion_range(method, asked[:stock_mm], rulebook)&.fetch(:ideal),
            reasons: reasons }
        end

        def self.of_stock(method, stock_mm, rulebook)
          works = rulebook.value("methods.#{method}.stock_works")
          ideal = rulebook.value_or_nil("methods.#{method}.stock_ideal")
          fits = trapezoid(stock_mm, works, ideal)
          [fits, [range_reason("stock", method, stock_mm, works, ideal, fits)]]
        end

        # How a stick suits, and what is said of it: nothing by a method that takes any.
        def self.of_scion(method, asked, rulebook)
          scion = scion_range(method, asked[:stock_mm], rulebook) or return [1.0, []]
          fits = asked[:scion_mm] ? trapezoid(asked[:scion_mm], scion[:works], scion[:ideal]) : 1.0
          reasons = [scion_reason(method, asked[:scion_mm], scion, fits)]
          if asked[:scion_mm] && fits && rulebook.method_fact(method, "one_side") && asked[:scion_mm] < scion[:ideal][0]
            reasons << { code: "scion_one_side", method: method, mm: asked[:scion_mm], stock_mm: asked[:stock_mm] }
          end
          [fits, reasons]
        end

        # What rules a method out besides sizes, and what is only remarked.
        def self.bars(method, asked, rulebook)
          slips = rulebook.value("methods.#{method}.needs_slip")
          donor = rulebook.method_fact(method, "donor")
          bars = [({ code: "other_place", method: method, place: asked[:place] } unless
                    rulebook.works_at?(method, asked[:place])),
                  ({ code: "no_donor", method: method } if donor && !asked[:donor]),
                  ({ code: "needs_slip", method: method } if slips && !asked[:slipping])].compact
          [bars, !slips && !asked[:slipping] ? [{ code: "needs_no_slip", method: method }] : []]
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
        private_class_method :takes, :pooled, :expected_of, :against_book, :others, :score, :of_stock, :of_scion,
                             :bars, :trapezoid, :range_reason, :scion_reason, :school_weight, :thin?
      end
    end
  end
end
