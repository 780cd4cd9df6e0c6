# frozen_string_literal: true

require "cgi"
require "nokogiri"

module Vestry
  module Web
    # A drawing of a page as a file of its own: with the styles it is drawn by, in plain colours, so that
    # any program that reads SVG shows it as the page does.
    class SvgFile
      STYLES = File.join(ROOT, "web/public/vestry.css")
      # What of a style an SVG knows.
      KNOWN = /\A(fill|stroke|opacity|font|text-anchor|paint-order|visibility|display)/
      # Signs in a list, of which nobody wants a file; and what belongs to another drawing.
      SMALL = %w[fit bud-stage visit-mark mistake wood-card stub narrow rose rise].freeze
      DRAWING = /<svg class="drawing(?![^"]* (?:#{SMALL.join('|')})[ "])[^"]*"([^>]*)>/
      PAPER = "#f5f6f1"

      # @param html [String] the page
      # @param number [Integer] which of its drawings, from 0
      # @return [String, nil] nil where the page has no such drawing
      def self.from(html, number)
        drawing = Nokogiri::HTML5(html, max_tree_depth: -1)
          .css("main svg.drawing#{SMALL.map { |kind| ":not(.#{kind})" }.join}")[number]
        drawing && new(drawing).to_s
      end

      # The drawings in a piece of a page: number and what each is called.
      #
      # @return [Array<Array(Integer, String)>]
      def self.titles(html)
        html.scan(DRAWING).each_with_index.filter_map do |(facts), i|
          facts[/aria-label="([^"]+)"/, 1]&.then { |words| [i, CGI.unescapeHTML(words)] }
        end
      end

      def initialize(drawing)
        @drawing = drawing
      end

      def to_s
        box = @drawing["viewBox"].to_s.split.map(&:to_f)
        without_controls
        text = @drawing.to_xml.gsub(%r{(</?)svg:}, '\1')
        text = text.sub("<svg ", "<svg xmlns=\"http://www.w3.org/2000/svg\" ") unless text.include?("xmlns=")
        document = Nokogiri::XML(text) { |config| config.strict.nonet }
        root = document.root
        root["width"], root["height"] = box[2].round.to_s, box[3].round.to_s if box.size == 4
        if box.size == 4
          ground = %(<rect x="#{box[0]}" y="#{box[1]}" width="#{box[2]}" height="#{box[3]}" ) +
                   %(style="fill:#{PAPER};stroke:none"/>)
          root.children.first.add_previous_sibling(%(<style>#{styles}</style>#{ground}))
        end
        document.to_xml
      end

      private

      # A file has no links and nothing to take hold of.
      def without_controls
        @drawing.css("a").each do |link|
          link.name = "g"
          %w[href aria-current rel].each { |name| link.delete(name) }
        end
        @drawing.css(".grip, .slide").each(&:remove)
      end

      # The rules that speak of what is in this drawing.
      def styles
        classes = [@drawing, *@drawing.css("[class]")].flat_map { |node| node["class"].to_s.split }.uniq
        self.class.styles.select { |selector, _| selector.include?(".") &&
                                   selector.scan(/\.([\w-]+)/).flatten.all? { |name| classes.include?(name) } }
                                     .map { |selector, body| "#{selector}{#{body}}" }.join("\n")
      end

      class << self
        # The drawings' own rules out of the pages' stylesheet, with every colour worked out.
        #
        # @return [Array<Array(String, String)>] a selector and what it says
        def styles
          @styles ||= begin
            rules = rules(File.read(STYLES))
            @colours = rules.select { |selector, _| selector.include?(":root") }.flat_map { |_, body| body.split(";") }
              .filter_map { |line| line.split(":", 2) if line.start_with?("--") }.to_h
            rules.filter_map do |selector, body|
              kept = body.split(";").filter_map do |line|
                name, value = line.split(":", 2)
                "#{name}:#{plain(value)}" if name&.match?(KNOWN) && !value.match?(/grid|flex/)
              end
              if kept.any? && selector.match?(/\./) && !selector.match?(/@|:has|:hover|:focus|::|>\s*summary/)
                selector.split(",").map { |one| [one.strip, kept.join(";")] }
              end
            end.flatten(1)
          end
        end

        private

        # Flat rules in order: within layers, and where colours may be mixed; none for narrow pages or paper.
        def rules(css)
          found = []
          until css.empty?
            head, rest = css.split("{", 2)
            break unless rest

            body, css = block(rest)
            head = head.sub(%r{/\*.*?\*/}m, "").strip.sub(/\A@[a-z]+ [^;{]*;/, "").strip
            if head.start_with?("@layer", "@supports (color:color-mix") then found.concat(rules(body))
            elsif !head.start_with?("@") then found << [head, body]
            end
          end
          found
        end

        # Up to the brace that closes it, and what follows.
        def block(text)
          depth = 1
          text.each_char.with_index do |char, i|
            depth += 1 if char == "{"
            depth -= 1 if char == "}"
            return [text[0...i], text[(i + 1)..]] if depth.zero?
          end
          [text, ""]
        end

        COLOUR = /(#\h{3,8}|transparent)/
        MIX = /color-mix\(in srgb, *#{COLOUR} *(\d+)%, *#{COLOUR}\)/
        VARIABLE = /var\((--[a-z-]+)\)/
        private_constant :COLOUR, :MIX, :VARIABLE

        def plain(value)
          while value.match?(VARIABLE)
            value = value.gsub(VARIABLE) { @colours.fetch(Regexp.last_match(1), "currentColor") }
          end
          value = value.gsub(MIX) { mixed(*Regexp.last_match.captures) } while value.match?(MIX)
          value
        end

        def mixed(one, share, other)
          weight = share.to_f / 100
          return "#{one}#{format('%02x', (weight * 255).round)}" if other == "transparent"

          "##{hex(one).zip(hex(other)).map { |a, b| format('%02x', (a * weight + b * (1 - weight)).round) }.join}"
        end

        def hex(colour)
          colour.delete("#").then { |digits| digits.size == 3 ? digits.chars.map { |each| each * 2 }.join : digits }
            .scan(/../).first(3).map do |pair|
            pair.to_i(16)
          end
        end
      end
    end
  end
end
