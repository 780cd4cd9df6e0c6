# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # How figures are said in this orchard.
      module Words
        COMPASS = %w[N NNE NE ENE E ESE SE SSE S SSW SW WSW W WNW NW NNW].freeze

        def length(mm) = Core::Measure.say(mm, orchard.units)
        def fine_length(mm) = Core::Measure.say_fine(mm, orchard.units)
        def thick(limb) = Core::Measure.say_thickness(limb, orchard.units)
        def about_length(mm, units = orchard.units) = Core::Measure.say_about(mm, units)
        # What a shoot may reach: never more than was reckoned, to the centimetre or the inch.
        def safe_length(mm)
          step = orchard.units == "imperial" ? Core::Measure::INCH : 10.0
          length((mm / step).floor * step)
        end
        # A thickness of wood, to the half millimetre.
        def thickness(mm)
          orchard.units == "imperial" ? length(mm) : "#{(mm.to_f * 2).round / 2.0}".delete_suffix(".0") + " mm"
        end
        def crop(kilos) = Core::Measure.say_crop(kilos, orchard.units)
        def area(mm2)
          return "#{(mm2 / Core::Measure::INCH**2).round(1)} sq in" if orchard.units == "imperial"

          "#{(mm2 / 100).round(1)} cm²"
        end
        # What a blade takes off.
        def thin(mm) = Core::Measure.say_thin(mm, orchard.units)
        # How thick the scions are that bridge a wound, where none is measured yet.
        def scions_that_work(book)
          range = book.value("methods.bridge.scion_works").map { |mm| thickness(mm).delete_suffix(" mm") }.join("–")
          orchard.units == "metric" ? "#{range} mm" : range
        end

        def warmth(celsius) = Core::Measure.say_warmth(celsius, orchard.units, places: 1)
        # A round temperature that a rule names, and a span of them.
        def warmth_named(celsius) = Core::Measure.say_warmth(celsius, orchard.units)
        def warmth_between(low, high) = "#{warmth_named(low)[/\A\S+/]} to #{warmth_named(high)}"
        # Degrees times days, by the degrees of this orchard.
        def degree_days(sum) = "#{Core::Measure.degrees_summed(sum, orchard.units)} degree-days"
        def degree_hours(sum) = "#{Core::Measure.degrees_summed(sum, orchard.units)} degree-hours"
        def wind_speed(ms) = Core::Measure.say_wind(ms, orchard.units)
        # Rain, in whole millimetres unless it was measured finer.
        def rain_depth(mm, places = 0)
          return format("%.2f in", mm / Core::Measure::INCH) if orchard.units == "imperial"

          "#{mm.round(places).to_s.delete_suffix('.0')} mm"
        end

        # A figure of the rulebook as people say it: "ten days".
        def book_words(path) = Core::RulebookProse.say(orchard.rulebook.entry(path))

        # Lengths that stand in the rulebook's prose, as this orchard says them: "150-200 mm" and "about 25 mm".
        def in_own_units(text)
          return text unless orchard.units == "imperial"

          text.gsub(/(\d+)-(\d+) mm/) { |_| "#{about_length($1.to_f, 'imperial').delete_suffix(' in')}-" \
                                           "#{about_length($2.to_f, 'imperial')}" }
            .gsub(/(\d+(?:\.\d+)?)(?= to \d+(?:\.\d+)? mm)/) { fine_length($1.to_f).delete_suffix(" in") }
            .gsub(/(\d+(?:\.\d+)?) mm/) { fine_length($1.to_f) }
        end

        # What a figure of the rulebook is said as: a length, a warmth or a wind in the orchard's units, anything else
        # as it stands there.
        BOOK_UNITS = { "mm" => :fine_length, "m" => :say_away, "°C" => :warmth_named, "m/s" => :wind_speed,
                       "degree-days" => :degree_days }.freeze
        private_constant :BOOK_UNITS

        def book_figure(value, unit)
          return "1 #{unit.sub(/\A([a-z]+)s\b/, '\1')}" if value == 1 && unit.to_s.match?(/\A[a-z]/)

          kind, rest = unit.to_s.split(" ", 2)
          own = BOOK_UNITS[kind] if orchard.units == "imperial"
          prose = Core::RulebookProse
          return prose.with_unit(prose.figures(value), unit && warmths_named(unit)) unless own

          prose.with_unit(prose.figures(value) { |figure| send(own, figure) }, rest)
        end

        # Warmth within a unit: "days at 1 °C".
        def warmths_named(text) = text.gsub(/(\d+) °C/) { warmth_named($1.to_f) }

        def bearing(deg) = deg.nil? ? "–" : "#{COMPASS[((deg.to_f % 360) / 22.5).round % 16]} (#{deg.to_f.round}°)"
        def light_weight(grams) = Core::Measure.say_grams(grams.to_f, orchard.units)
        # Where a stick sits about its stub: upright by the compass, leaning by its upper side.
        def sits(deg, upright) = upright ? "facing #{bearing(deg % 360)}" : Drawings::Spoken.on_leaning(deg)
        # How far off, in whole metres or feet.
        def say_away(metres) = Core::Measure.say_metres(metres, orchard.units)
        # The nearest of the eight winds, in a word.
        def compass_words(deg)
          %w[north north-east east south-east south south-west west north-west][((deg % 360) / 45.0).round % 8]
        end
        # Minutes as hours, to a tenth.
        def hours(minutes) = format("%.1f", Core::Plan::WorkTime.hours(minutes))
        # Not quite all of it is never said to be all.
        def percent(share)
          return "under 1 %" if share.positive? && (share * 100).round.zero?

          "#{share < 1 - Core::Near::TOLERANCE ? [(share * 100).round, 99].min : (share * 100).round} %"
        end
        # The same as a page's list has it, which is sorted by the day itself.
        def timed(date, words = day(date))
          date ? %(<time datetime="#{date.iso8601}">#{words}</time>) : words
        end

        # A day as it is said here: without its year where that is the present working year's, or plainly the nearest.
        def day(date)
          return "–" if date.nil?

          date.strftime(this_year?(date) ? "%-d %B" : "%-d %B %Y")
        end

        # The same for paper and files, which are read in other years.
        def whole_day(date) = date.nil? ? "–" : Deeds::SaidDay.of(date)
        # One that is kept as text, however it came there.
        def kept_day(text)
          whole_day(Date.iso8601(text.to_s))
        rescue Date::Error
          text
        end

        def this_year?(date)
          now = told_on
          return false if orchard.nil? || now.nil?

          (date.to_date - now).abs <= NEAR_DAYS || orchard.season.name_of(date) == orchard.season.name_of(now)
        end
        # So few weeks from today a day needs no year, at the turn of a working year too.
        NEAR_DAYS = 60
        # Whether a day is past, where it is known which day it is.
        def over?(day) = !told_on.nil? && day < told_on
        # The day on which it is said.
        def told_on = respond_to?(:today) ? today : @today
        def short_day(date) = date.strftime(this_year?(date) ? "%-d %b" : "%-d %b %Y")
        # A day as it comes every year.
        def yearly_day(date) = date.strftime("%-d %b")
        # Until when a task is due, or since when it is late.
        def say_due(task, on = short_day(task[:due_on])) = "#{task[:status] == 'late' ? 'late since' : 'by'} #{on}"
        def say_task_due(task, title)
          "#{title}#{',' if task[:status] == 'late'} #{say_due(task, day(task[:due_on]))}"
        end
        # When stored wood is looked at again; nothing of what nobody wants any more.
        #
        # @param kept [Records::WoodStore::StoredBundle]
        def look_words(kept)
          return "" unless kept.lasts?

          kept.due?(today) ? "; look at it now" : "; look by #{short_day(kept.check_due)}"
        end
        # A month and day as it is said: 5 May.
        def spoken_day(month_day) = month_day && Date.strptime("2024-#{month_day}", "%Y-%m-%d").strftime("%-d %B")
        def month_names(months) = months.map { |month| Date::ABBR_MONTHNAMES[month] }.join(", ")
        def method_name(technique) = Core::Rulebook.shipped.book("methods").dig(technique, "name") || technique
        # What is measured across where a method sets.
        def across_words(technique)
          return "Stub" if orchard.rulebook.heads?(technique)

          orchard.rulebook.works_at?(technique, "shoot") ? "Shoot" : "Limb"
        end

        # What is done at a limb's place: its head is cut off there, or stays on.
        def place_words(technique) = orchard.rulebook.heads?(technique) ? "cut" : "set"
        # A day as it may be typed: of the north's year, half a year on in the south.
        #
        # @param month_day [String] "MM-DD"
        def example_day(month_day) = yearly_day(orchard.season.next_day(month_day, today))

        # The orchard's own place as a latitude and a longitude may be typed.
        #
        # @return [Array(String, String)]
        def example_place
          [[orchard.latitude, %w[N S]], [orchard.longitude, %w[E W]]].map do |degrees, sides|
            whole, minutes = (degrees.to_f.abs * 60).round.divmod(60)
            side = sides[degrees.to_f.negative? ? 1 : 0]
            "#{degrees.to_f.round(1)} or #{whole} #{format('%02d', minutes)} #{side}"
          end
        end

        # What a role has done to a limb.
        ROLE_DEEDS = { "work" => "worked", "later" => "worked", "backup" => "worked as a backup",
                       "nurse" => "kept as a nurse", "renew" => "headed back for wood", "lift" => "lifted" }.freeze
        def role_deed(role) = ROLE_DEEDS.fetch(role)

        # A bare stretch that is to be filled: where it is, and what is set there.
        def say_site(row)
          site = row.site
          "A bare stretch #{length(site.at_mm)} #{site.limb ? "along #{site.limb.tag}" : 'up the trunk'}, facing " \
            "#{bearing(site.bearing_deg)}: #{method_name(row.technique).downcase}, " \
            "#{set_words(row.technique, row.sticks || 1)}. No head is cut off.#{stretch_off_words(row)}"
        end

        # That a bare stretch is to be filled, and what it is on is to be cut off.
        def stretch_off_words(row)
          with = row.comes_off_with
          with ? " Not yet: #{row.site.tag} #{comes_off_words(with.cut_below_facts)}." : ""
        end

        # What comes off with the top of a limb that is cut to be grafted; nil where nothing that is known does.
        #
        # @param at_mm [Numeric, nil] where it is cut; nil where no head comes off
        def top_words(limb, at_mm)
          return if at_mm.nil?

          limbs = limb.top_from(at_mm)
          living = limbs.select { |each| each.graft && each.graft.fate != "lost" }
          grafted = living.map { |each| "the graft of #{each.graft.variety.name} on #{each.tag}" }
          off = [*(limbs - living).map(&:tag), *grafted,
                 *Records::Site.on_wood_above(limb, at_mm).map { |site| "the bare stretch #{site.tag}" }]
          "Cut at #{length(at_mm)}, #{limb.tag} takes with it #{listed(off)}." if off.any?
        end

        # How much is set: sticks, a bud, or a rooted plant.
        def set_words(technique, count)
          return counted(count, "bud") if orchard.rulebook.works_at?(technique, "shoot")

          orchard.rulebook.method_fact(technique, "donor") ? "a rooted plant" : counted(count, "stick")
        end

        # What is set without a stored stick; nil where it is one.
        #
        # @param card [Records::DaySheet::Card]
        def own_wood(card)
          book = orchard.rulebook
          return "the rooted plant beside it" if book.method_fact(card.row.technique, "donor")
          summers = orchard.last_days(today).summers_wood?(card.row.technique, card.row.season)
          return "buds of this summer's growth, cut on the day" if summers

          "leafy wood, cut on the day" if card.given.empty? && book.evergreen?(card.row.variety.species)
        end

        # What is minded at a stub, in sentences.
        #
        # @param card [Records::DaySheet::Card]
        def minded(card)
          said = card.cautions.map { |name| orchard.rulebook.book("cautions")[name]["text"] }
          bleeding = mind_bleeding(card.limb, card.row.technique, seen: card.bleeds)
          bleeding ? [*said, "#{bleeding.capitalize}."] : said
        end

        # A graft by its variety and day, with the way to it.
        def graft_link(graft)
          %(<a href="#{to('tend', "/grafts/#{graft.id}")}">#{Rack::Utils.escape_html(graft.variety.name)}, ) +
            "#{Rack::Utils.escape_html(day(graft.grafted_on))}</a>"
        end

        def side_of(graft)
          return "on a stub of" unless graft.kind == "side"

          graft.filled? ? "in a bare stretch of" : "in a limb of"
        end

        # What was set where: sticks on a stub, a bud in a shoot, or a rooted plant beside it.
        def say_set(graft)
          book, across = orchard.rulebook, length(graft.stub_mm)
          return "a bud in a shoot of #{across}" if book.works_at?(graft.technique, "shoot")
          return "a rooted plant beside a stem of #{across}" if book.method_fact(graft.technique, "donor")

          "#{counted(graft.sticks, 'stick')} #{side_of(graft)} #{across}"
        end

        # What a limb carries, and since when.
        #
        # @param line [Records::TreeCard::Line]
        def say_tree_line(line)
          case line.state
          when "took" then "#{line.variety}, grafted #{whole_day(line.since)}"
          when "waiting" then "#{line.variety}, grafted #{whole_day(line.since)}; whether it took is not known yet"
          when "planned" then "to be grafted with #{line.variety} in #{line.season}"
          when "lost" then "its graft was lost#{"; #{line.variety}" if line.variety}"
          else line.variety || "as it grew"
          end
        end

        def species_name(species) = Core::Rulebook.shipped.book("species").dig("names", species, "name") || species
        def school_name(school) = Core::Rulebook.shipped.book("schools").dig("schools", school, "name")
        def choice_name(point, choice)
          Core::Rulebook.shipped.book("schools").dig("points", point, "choices", choice, "name")
            &.then { |name| in_own_units(name) } || choice
        end
        def counted(number, one, many = "#{one}s") = Drawings::Spoken.counted(number, one, many)
        def all_of(number, one)
          { 1 => "The one #{one}", 2 => "Both #{one}s" }.fetch(number) { "All #{counted(number, one)}" }
        end

        def counted_are(number, one, many = "#{one}s") = "#{counted(number, one, many)} #{number == 1 ? 'is' : 'are'}"

        def counted_were(number, one) = "#{counted(number, one)} #{number == 1 ? 'was' : 'were'}"

        NUMBERS = %w[No One Two Three Four Five Six Seven Eight Nine Ten Eleven Twelve].freeze
        # A number to open a sentence with.
        def with_article(name) = "#{name.match?(/\A[aeiou]/i) ? 'an' : 'a'} #{name}"
        def number_word(number) = NUMBERS[number] || number.to_s

        # The first of a list, and how many more there are.
        def some_of(list, most) = [list.first(most), [list.size - most, 0].max]

        # The first few, and how many more.
        def listed_some(words, most) = listed_first(words.size > most + 1 ? words.first(most) : words, words.size)

        # The first few of so many.
        def listed_first(words, size)
          size > words.size ? "#{words.join(', ')} and #{size - words.size} more" : listed(words)
        end

        def listed(words)
          words.size < 2 ? words.join : "#{words[0..-2].join(', ')} and #{words.last}"
        end
      end
    end
  end
end
