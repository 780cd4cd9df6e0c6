# frozen_string_literal: true

require "json"
require "nokogiri"

module Vestry
  module Records
    # Points that have a name and a place, from GPX or GeoJSON.
    module PointFile
      # +line+ where it stands in the file; +latitude+ and +longitude+ as they were written, unread.
      Point = Struct.new(:line, :name, :latitude, :longitude, :species, :variety, keyword_init: true)

      module_function

      # @return [Array<Point>]
      # @raise [FileText::Unreadable] naming line and column
      def gpx(text)
        document = Nokogiri::XML(text) { |config| config.strict.nonet }
        points = document.remove_namespaces!.xpath("//wpt")
        raise FileText::Unreadable, "It has no waypoints." if points.empty?

        points.map do |point|
          Point.new(line: point.line, name: point.at_xpath("name")&.text, latitude: point["lat"],
                    longitude: point["lon"], species: point.at_xpath("type")&.text)
        end
      rescue Nokogiri::XML::SyntaxError => e
        # Of several faults the first; the library tells them all as one.
        line, column = e.message.match(/(\d+):(\d+): /)&.captures || %w[1 1]
        raise FileText::Unreadable, "Line #{line}, column #{column}: it is not sound XML."
      end

      # Features whose geometry is a point; those of other shapes are told as having no place.
      #
      # @return [Array<Point>]
      # @raise [FileText::Unreadable] naming line and column
      def geojson(text)
        features = JSON.parse(text).then do |told|
          told.is_a?(Hash) && told["type"] == "FeatureCollection" ? told["features"] : nil
        end
        raise FileText::Unreadable, "It is not a FeatureCollection." unless features.is_a?(Array) && features.all?(Hash)
        raise FileText::Unreadable, "It has no features." if features.empty?

        lines = lines_of(text, /"type"\s*:\s*"Feature"/)
        features.each_with_index.map do |feature, i|
          told = feature["properties"].is_a?(Hash) ? feature["properties"] : {}
          longitude, latitude = place(feature["geometry"])
          Point.new(line: lines[i] || 1, name: told["name"]&.to_s, latitude: latitude&.to_s, longitude: longitude&.to_s,
                    species: told["species"]&.to_s, variety: told["variety"]&.to_s)
        end
      rescue JSON::ParserError => e
        raise FileText::Unreadable, "#{where(text, e)}: what begins here is not sound JSON."
      end

      def place(geometry)
        geometry.is_a?(Hash) && geometry["type"] == "Point" && geometry["coordinates"].is_a?(Array) ?
          geometry["coordinates"] : []
      end

      # The line of each match.
      def lines_of(text, pattern)
        line, from = 1, 0
        text.to_enum(:scan, pattern).map do
          at = Regexp.last_match.begin(0)
          line += text[from...at].count("\n")
          from = at
          line
        end
      end

      # Where that begins which the parser could not read: it names all from there on.
      def where(text, error)
        at = error.message[/at '(.*)'\z/m, 1].then { |rest| rest && text.rindex(rest) } || 0
        before = text[0...at]
        "Line #{before.count("\n") + 1}, column #{at - (before.rindex("\n") || -1)}"
      end
      private_class_method :place, :lines_of, :where
    end
  end
end
