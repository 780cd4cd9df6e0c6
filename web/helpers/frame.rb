# frozen_string_literal: true

require "cgi/escape"

module Vestry
  module Web
    module Helpers
      # The frame of every page: year band, stations, now line, drawings.
      module Frame
        STATIONS = { "survey" => "Survey", "plan" => "Plan", "wood" => "Wood", "slip" => "Slip",
                     "graft" => "Graft", "tend" => "Tend", "tally" => "Tally" }.freeze

        # What a station's drawings are worked by, besides what every page has.
        SCRIPTS = { "survey" => %w[aim], "plan" => %w[plan], "tally" => %w[plan], "repair" => %w[repair],
                    "graft" => %w[bench hand], "tend" => %w[union hand], "practice" => %w[practice] }.freeze

        # The address of a style or a script, which changes with its content.
        def asset(name) = Stack::Assets.address(name)

        def to(station, path = "") = "/o/#{orchard.slug}/#{station}#{path}"
        def station = request.script_name.split("/").last
        # The station whose window stands open: stripped trunks are looked after where grafts are.
        def shown_station = station == "repair" ? "tend" : station
        def page_name = STATIONS[station] || station.to_s.capitalize

        # What a tab and a list of visited pages say: what the page is about, as its headline begins; a station's own
        # page is the station.
        #
        # @param content [String] the page's HTML, whose letters are escaped
        # @return [String] HTML
        def page_title(content)
          whole = orchard && request.path_info.length < 2 && request.query_string.empty?
          about = content[%r{<h1[^>]*>(.*?)</h1>}m, 1] unless whole
          text = CGI.unescapeHTML(about.to_s.gsub(/<[^>]*>/, "")).split.join(" ")
          names = orchard ? [page_name, orchard.name] : ["Vestry"]
          [text[/\A.+?(?=[:;.,?!](?: |\z)|\z)/], *names].compact.map { |each| Rack::Utils.escape_html(each) }
            .join(" · ")
        end

        def year_band
          windows = Records::YearWindows.of(orchard, today).map { |each| Drawings::YearBand::BandWindow.new(**each) }
          Drawings::YearBand.new(orchard.season, today, windows, current: shown_station)
        end

        # A tree's limbs as they are drawn today.
        def drawn(tree, **ways) = Drawings::DrawnLimb.all(tree, planning: orchard.season_to_plan(today), **ways)

        # The direction the tree is looked at from: as the address says, else whence its limbs stand clearest.
        def looked_from(tree, stands = drawn(tree))
          query[:from] || (@clearest ||= {})[tree.id] ||= Drawings::Elevation.clearest(tree, stands)
        end

        # A drawing's title up to where it begins to tell figures; one word alone names nothing.
        def drawing_name(title)
          name = title[/\A[^.;:]+/].to_s
          (name.include?(" ") ? name : title[/\A[^.;,]+/].to_s).strip[0, 60]
        end

        # @param proposed [Hash{Integer=>Float}] cuts not yet decided, by limb
        # @param after [Integer, nil] the season whose work is drawn as done
        # @param faults [Hash{Integer=>String}] by limb
        # @param height [Numeric] of the drawing from the side
        def tree_drawings(tree, chosen: nil, proposed: {}, after: nil, faults: {}, stretch: nil, year: nil,
                          height: Drawings::Elevation::HEIGHT)
          stands = drawn(tree, proposed: proposed, after: after, year: year, now: orchard.season.name_of(today))
          options = { from_deg: looked_from(tree, stands), chosen: chosen&.id, href: ->(id) { limb_address(tree, id) } }
          { elevation: Drawings::Elevation.new(tree, stands, faults: faults, stretch: stretch, height: height,
                                                   **options),
            above: Drawings::FromAbove.new(tree, stands, **options) }
        end

        # What a headline asks for, where whoever reads it may do that.
        def allowed(act) = (act if act && may?(act.role))

        # The same station's page for another limb of the tree.
        def limb_address(tree, limb_id, from: query[:from], after: query[:after])
          here = %w[survey plan].include?(station) ? station : "survey"
          asked = { limb: limb_id, from: from, after: (after if station == "plan") }.compact
          "#{to(here, "/trees/#{tree.id}")}#{"?#{Rack::Utils.build_query(asked)}" unless asked.empty?}"
        end

        def turn_address(tree, limb, by) = limb_address(tree, limb&.id, from: (looked_from(tree) + by) % 360)

        def partial(name, **locals) = erb(:"#{name}", layout: false, locals: { locals: locals }.merge(locals))
      end
    end
  end
end
