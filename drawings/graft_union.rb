# frozen_string_literal: true

module Vestry
  module Drawings
    # One graft as it should look today, from the side, its parts to be pressed: each steps through what may be seen of
    # it. What nobody looked at is grey and stands as it was seen last.
    class GraftUnion
      WIDTH, HEIGHT = 560, 520
      TOP, FOOT, MIDDLE = 330, 505, 215
      # Pixels to a mm of the stub, drawn no wider than there is room for.
      TIMES = 3.2

      # What may be seen of each part, in the order it steps through.
      PARTS = { "buds" => %w[asleep swelling leafing dead], "callus" => %w[none some full],
                "seal" => %w[sound cracked gone], "wrap" => %w[sound loose biting],
                "stock_shoots" => %w[none some many], "pests" => %w[none aphids caterpillars other] }.freeze
      # What a graft looks like that nobody has looked at yet.
      AT_FIRST = { "buds" => "asleep", "callus" => "none", "seal" => "sound", "wrap" => "sound",
                   "stock_shoots" => "none", "pests" => "none" }.freeze
      WORDS = { "buds" => "buds", "callus" => "callus", "seal" => "seal", "wrap" => "tape",
                "stock_shoots" => "stock shoots", "pests" => "leaf" }.freeze
      # What binds one that is not taped: by its kind, and by its wrap.
      TIED = { "bud" => "tie", "approach" => "cord" }.freeze
      WRAPPED = { "film" => "film" }.freeze
      SAID = { "full" => "all round" }.freeze
      # Where a part's words stand.
      LABELS = { "buds" => [348, 170], "callus" => [348, 356], "seal" => [348, 300], "wrap" => [348, 424],
                 "stock_shoots" => [8, 470], "pests" => [36, 148] }.freeze

      # Which parts a rule of aftercare is about.
      LOOKS = { %w[wax-check reseal] => %w[seal],
                %w[first-look callus-look false-start approach-look approach-look-again
                   open-if-still moving-look] => %w[buds callus],
                %w[blind-buds bud-look bud-growth bud-head after-frost parted-look] => %w[buds],
                %w[stock-shoots stock-shoots-later stock-shoots-beside stock-shoots-parted stock-shoots-now
                   year-stock-shoots insurance-bud regraft-bud bud-this-summer] => %w[stock_shoots],
                %w[slit-tape slit-now rewrap bud-tie untie year-ties] => %w[wrap],
                %w[aphids pests-treat year-pests] => %w[pests],
                %w[shorten long-shoot brace tie-wire choose brace-look brace-after-year cut-to-bud bud-shoot free-buds
                   after-gale after-gale-bud thin-ring no-fruit fruit-off] => %w[buds] }
        .flat_map { |rules, parts| rules.map { |rule| [rule, parts] } }.to_h.freeze

      def self.looked_at(rule) = LOOKS.fetch(rule, PARTS.keys)

      # What a graft is bound with, in a word.
      def self.bound_with(graft) = TIED[graft.kind] || WRAPPED.fetch(graft.wrap, WORDS["wrap"])

      # @param graft [Records::Graft]
      # @param seen [Hash{String=>String}] the last that was seen of each part
      # @param shoot_mm [Float, nil] the longest shoot seen so far
      # @param parted [Boolean] what was joined to a rooted plant was cut from it
      def initialize(graft, seen: {}, shoot_mm: nil, dead: [], parted: false, id: nil)
        @id = id
        @parted = parted
        @graft = graft
        @seen = AT_FIRST.merge(seen.compact)
        @shoot_mm = shoot_mm
        @dead = dead
        @orchard = graft.orchard
      end

      def svg = Template.render("graft_union", self)
      def parted? = @parted
      # Whether the stock ends above what is joined to it.
      def headed? = @graft.head_off?
      def title = "The graft on #{@graft.limb.label} as it should look today"
      def last(part) = @seen.fetch(part)
      # Beside a stem there is room for what is set.
      def half = (@graft.stub_mm.to_f * TIMES / 2).clamp(40, kind == "stub" ? 105 : 78)
      def left = MIDDLE - half
      def right = MIDDLE + half

      # Sticks across the stub, the middle ones higher.
      def sticks
        count = [@graft.sticks, 5].min
        (1..count).map { |place| stick(place, count == 1 ? 0.0 : ((place - 1) / (count - 1.0) - 0.5) * 2) }
      end

      # @param aside [Float] from -1 at the left of the stub to 1 at its right
      def stick(place, aside)
        wide = ((@graft.scion_mm || 8).to_f * TIMES).clamp(12, 26)
        tall = 132 - 26 * aside.abs
        middle = MIDDLE + aside * (half - wide * 0.7)
        { x: middle - wide / 2, wide: wide, top: TOP - tall, tall: tall + 14, middle: middle, place: place,
          dead: @dead.include?(place) }
      end

      def words(part) = part == "wrap" ? GraftUnion.bound_with(@graft) : WORDS.fetch(part)
      def said(state) = SAID.fetch(state, state)

      # A stub's; that of a stick in the side of a limb or of a bud in a young shoot, whose heads stand on; or that of a
      # rooted plant's stem bound to the side of one.
      def kind = @kind ||= @graft.kind

      # Where a part's words stand, and where their line leads.
      def label(part) = [*(kind == "side" && part == "buds" ? [348, 130] : LABELS.fetch(part)), *leads.fetch(part)]

      def leads
        far = sticks.last
        { "wrap" => [right + 4, 424], "stock_shoots" => [left - 46, 452], "pests" => [62, 130],
          "buds" => [far[:middle] + 22, far[:top] + 24], "callus" => [right + 4, 340], "seal" => [right + 4, 326],
          **BESIDE.fetch(kind, {}).transform_values { |aside, y| [right + aside, y] } }
      end
      # Where the lines lead to beside a stem, by how far they are right of it.
      BESIDE = { "bud" => { "buds" => [30, 250], "callus" => [-20, 366], "wrap" => [4, 392] },
                 "side" => { "buds" => [48, 216], "callus" => [-22, 362], "seal" => [12, 304], "wrap" => [4, 398] },
                 "approach" => { "buds" => [56, 132], "callus" => [8, 300], "seal" => [22, 218],
                                 "wrap" => [32, 350] } }.freeze
      private_constant :BESIDE

      # A part that is pressed, from here to where it is closed.
      def opened(name)
        %(<g class="part unseen" data-part="#{name}" data-states="#{PARTS[name].join(' ')}" data-is="#{last(name)}" ) +
          %(data-words="#{words(name)}" role="button" tabindex="0" aria-label="#{words(name)} not looked at">)
      end

      # Its words, and the line that leads to them.
      def closed(name)
        x, y, *lead = label(name)
        lead_x, lead_y = lead.map { |number| Stroke.round(number) }
        aside, above = x > 300 ? [-6, -4] : [20, -16]
        %(<path class="lead" d="M#{lead_x} #{lead_y}L#{x + aside} #{y + above}"/><text x="#{x}" y="#{y}"><tspan ) +
          %(class="of">#{words(name)}</tspan> <tspan class="say" x="#{x}" dy="1.15em">not looked at</tspan></text></g>)
      end

      # The longest a shoot can be pulled to, and its scale up the ruler: in four parts that are read at sight.
      def ruler_mm
        @ruler_mm ||= begin
          parts = RULER_PARTS.fetch(@orchard.units)
          4 * (parts.find { |part| part * 4 >= (@shoot_mm || 0) * 1.8 } || parts.last)
        end
      end
      RULER_PARTS = { "metric" => [50, 100, 150, 200, 250, 500, 750, 1000, 1500, 2000, 2500],
                      "imperial" => [2, 3, 4, 6, 12, 24, 36, 48, 60, 96].map { |part| part * Core::Measure::INCH } }
        .freeze
      private_constant :RULER_PARTS

      def ruler_marks = (0..4).map { |i| { mm: ruler_mm * i / 4, y: y(ruler_mm * i / 4), text: say(ruler_mm * i / 4) } }
      def shoot_y = y(@shoot_mm || 0)
      def y(mm) = TOP - mm / ruler_mm.to_f * (TOP - 40)

      def grain
        Stroke.strewn(@graft.limb.tag, 26, [left, right], [TOP + 60, FOOT - 20], way: "v")
      end

      private

      def say(mm) = Core::Measure.say_mark(mm, @orchard.units, most: ruler_mm)
    end
  end
end
