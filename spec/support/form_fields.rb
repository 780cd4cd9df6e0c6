# frozen_string_literal: true

# What a browser would send of a form that nobody touched.
module FormFields
  module_function

  # @param form [Nokogiri::XML::Element]
  # @return [Hash{String=>Object}]
  def fields(form)
    # One that stands elsewhere on the page names its form.
    every = form.document.css("input, select, textarea").select do |each|
      each["form"] ? each["form"] == form["id"] : each.ancestors.include?(form)
    end
    every.each_with_object({}) do |each, sent|
      name = each["name"] or next
      if %w[submit button image file].include?(each["type"]) ||
        (%w[checkbox radio].include?(each["type"]) && each["checked"].nil?)
        next
      end

      value = case each.name
              when "select" then (each.at_css("option[selected]") || each.at_css("option"))&.then do |option|
                option["value"] || option.text
              end
              when "textarea" then each.text.delete_prefix("\n")
              else each["value"] || (each["type"] == "checkbox" ? "on" : "")
              end
      name.end_with?("[]") ? (sent[name.delete_suffix("[]")] ||= []) << value : sent[name] = value
    end
  end
end
