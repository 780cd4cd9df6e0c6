# frozen_string_literal: true

require "cgi"
require "nokogiri"

module Vestry
  module Drawings
    # A drawing of a page as a file of its own: with the styles it is drawn by, in plain colours, so that
    # any program that reads SVG shows it as the page does.
    class SvgFile
      # Signs in a list, of which nobody wants a file; and what belongs to another drawing.
      SMALL = %w[fit bud-stage visit-mark mistake wood-card stub narrow rose rise].freeze
      DRAWING = /<svg class="drawing(?![^"]* (?:#{SMALL.join('|')})[ "])[^"]*"([^>]*)>/
      PAPER = "#f5f6f1"
      SVG = "http://www.w3.org/2000/svg"

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

      # One drawing by itself, for paper: each part says its own style, on no ground.
      #
      # @param svg [String]
      # @return [String]
      def self.for_paper(svg)
        new(Nokogiri::HTML5.fragment(svg, max_tree_depth: -1).at_css("svg")).for_paper
      end

      # What is as wide as its page is so wide by itself.
      WIDE = 760.0

      def initialize(drawing)
        @drawing = drawing
        @box = drawing["viewBox"].to_s.split.map(&:to_f)
        @box = [0.0, 0.0, WIDE, drawing["height"].to_f] if @box.empty? && drawing["height"].to_f.positive?
      end

      def to_s
        document = plain_document
        if @box.size == 4
          ground = %(<rect x="#{@box[0]}" y="#{@box[1]}" width="#{@box[2]}" height="#{@box[3]}" ) +
                   %(style="fill:#{PAPER};stroke:none"/>)
          sheet = rules.map { |selector, body| "#{selector}{#{body}}" }.join("\n")
          document.root.children.first.add_previous_sibling(%(<style>#{sheet}</style>#{ground}))
        end
        document.to_xml
      end

      def for_paper
        document = plain_document
        document.remove_namespaces!
        PaperStyles.put(document, rules)
        document.root["xmlns"] = SVG
        document.to_xml
      end

      private

      def plain_document
        without_controls
        text = @drawing.to_xml.gsub(%r{(</?)svg:}, '\1')
        text = text.sub("<svg ", "<svg xmlns=\"#{SVG}\" ") unless text.include?("xmlns=")
        Nokogiri::XML(text) { |config| config.strict.nonet }.tap do |document|
          size(document.root) if @box.size == 4
        end
      end

      def size(root)
        root["viewBox"] ||= @box.map { |side| side.round.to_s }.join(" ")
        root["width"], root["height"] = @box.last(2).map { |side| side.round.to_s }
      end

      # A file has no links and nothing to take hold of.
      def without_controls
        @drawing.css("a").each do |link|
          link.name = "g"
          %w[href aria-current rel].each { |name| link.delete(name) }
        end
        @drawing.css(".grip, .slide").each(&:remove)
      end

      # The rules that speak of what is in this drawing.
      def rules
        DrawingStyles.of([@drawing, *@drawing.css("[class]")].flat_map { |node| node["class"].to_s.split }.uniq)
      end
    end
  end
end
