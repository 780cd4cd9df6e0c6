# frozen_string_literal: true

module Vestry
  module Core
    module Repair
      # A wounded tree at first sight: what it calls for, what to do today, and how long there is.
      module Triage
        extend Reckoning

        contract "triage", "What a stripped trunk calls for, how long there is, and how pressing it is" do
          number :girdled_share, least: 0, most: 1, help: "of the girth without bark"
          number :girth_mm, unit: "mm", above: 0
          flag :root_bark, default: true, help: "live bark is left above the roots"
          flag :buried, default: false, help: "the wound goes below the soil, its end not found"
          flag :below_union, default: false, help: "it reaches below the tree's own nursery union"
          flag :elsewhere, default: false, help: "its variety stands on another tree too"
          flag :drying, default: false, help: "the bare wood is drying or cracked"
          flag :covered, default: false
          flag :leafy, default: false, help: "of a kind that keeps its leaves: its wood is cut on the day"
          date :opens_on, help: "bark slips from about this day, this season"
          date :closes_on, help: "and until this"
          date :next_opens_on, help: "and from this day in the next season"
          date :found_on, optional: true, help: "the day from which a stem is given to be cut; else today"
          date :today
        end

        # A stem with no live bark above its roots is never cut back to live wood: there is none. One that would grow
        # another variety from below is not cut before its own stands elsewhere.
        #
        # @return [Hash] +verdict+, +rank+ (0 the most pressing), +by+ (the last day that will do, or null),
        #   +days_left+ and +reasons+
        def self.call(girdled_share:, girth_mm:, opens_on:, closes_on:, next_opens_on:, today:, root_bark: true,
                      buried: false, below_union: false, elsewhere: false, drying: false, covered: false,
                      leafy: false, found_on: nil, rulebook: Rulebook.shipped)
          verdict = verdict(girdled_share, girth_mm, root_bark, below_union && !elsewhere, rulebook)
          slips = today >= opens_on && today <= closes_on
          by = last_day(verdict, closes_on, today, found_on || today, rulebook)
          reasons = [{ code: "triage_#{verdict.tr('-', '_')}", share: girdled_share, girth_mm: girth_mm,
                       diameter_mm: girth_mm / Math::PI },
                     *first(verdict, buried || (!root_bark && verdict != "dress"), below_union && !elsewhere, leafy)]
          reasons << { code: covered || verdict == "cut-back" ? nil : "triage_cover", drying: drying }
          reasons.concat(when_reasons(verdict, slips, opens_on, closes_on, next_opens_on, today, leafy))
          { verdict: verdict, rank: rank(verdict, slips, covered, drying), by: by, days_left: by && (by - today).to_i,
            reasons: reasons.select { |each| each[:code] } }
        end

        # What comes before the repair itself.
        def self.first(verdict, dig, last_of_its_kind, leafy)
          [("triage_dig" if dig), ("triage_no_root" if verdict == "inarch"),
           ((leafy ? "triage_leafy_wood" : "triage_save_wood") if last_of_its_kind && verdict != "dress")]
            .compact.map { |code| { code: code } }
        end

        def self.verdict(share, girth_mm, root_bark, last_of_its_kind, rulebook)
          found = Bridge.verdict(share, girth_mm, root_bark, rulebook)
          return found unless found == "cut-back"
          return "inarch" unless root_bark

          last_of_its_kind ? "stump-graft" : found
        end

        # A ring that is not bridged this season lives on what the roots have stored; half a ring can
        # wait a year, though no one should want it to.
        def self.last_day(verdict, closes_on, today, found_on, rulebook)
          case verdict
          when "needed", "inarch" then closes_on >= today ? closes_on : nil
          when "advised" then closes_on >= today ? closes_on : closes_on >> 12
          when "stump-graft" then closes_on >= today ? closes_on : nil
          when "cut-back" then found_on + rulebook.value("reckoning.bridge.cut_back_days")
          end
        end

        def self.rank(verdict, slips, covered, drying)
          return 5 if verdict == "dress" && covered
          return 4 if verdict == "dress"
          return 0 if verdict != "advised" && slips
          return 1 if !covered && (drying || verdict != "advised")

          verdict == "advised" ? 3 : 2
        end

        def self.when_reasons(verdict, slips, opens_on, closes_on, next_opens_on, today, leafy)
          return [] if %w[dress cut-back].include?(verdict)
          return [{ code: "triage_slips", closes_on: closes_on }] if slips
          told = CALL_FOR_A_BRIDGE.include?(verdict) ? {} : { verdict: verdict }
          if today < opens_on
            return [{ code: "triage_bark_ahead", opens_on: opens_on, days: (opens_on - today).to_i,
                      **(leafy ? { leafy: true } : {}), **told }]
          end

          [{ code: verdict == "advised" ? "triage_next_year" : "triage_too_late", opens_on: next_opens_on, **told }]
        end
        # Verdicts that call for a bridge; of any other a reason says which it is.
        CALL_FOR_A_BRIDGE = %w[needed advised].freeze
        private_constant :CALL_FOR_A_BRIDGE
        private_class_method :first, :verdict, :last_day, :rank, :when_reasons
      end
    end
  end
end
