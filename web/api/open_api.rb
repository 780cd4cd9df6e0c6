# frozen_string_literal: true

module Vestry
  module Web
    module Api
      # The description of the interface, made from the tables' columns, the reckonings' contracts and
      # the list of what may be written.
      module OpenApi
        # What may be written: the address below an orchard, what it does, and its fields.
        WRITES = {
          "trees" => ["Adds trees of a row", { "row" => "string", "first" => "integer", "last" => "integer", "species" => "string", "form" => "string", "height" => "string", "trunk_girth" => "string" }, %w[row first species form]],
          "trees/{id}/lines" => ["Surveys limbs by limb lines", { "lines" => "string", "sure" => "boolean" }, %w[lines]],
          "limbs/{id}/grafts" => ["Logs a graft", { "grafted_on" => "string", "technique" => "string", "variety" => "integer", "stub" => "string", "sticks" => "integer", "grafter" => "string", "wrap" => "string", "seal" => "string", "cover" => "string", "cut" => "string", "scion" => "string", "bark_slip" => "string", "against_reason" => "string", "client_key" => "string" }, %w[grafted_on technique variety stub sticks grafter wrap seal cover]],
          "grafts/{id}/visits" => ["Records a visit", { "seen_on" => "string", "buds" => "string", "callus" => "string", "verdict" => "string", "longest_shoot" => "string", "seal" => "string", "wrap" => "string", "note" => "string", "client_key" => "string" }, %w[seen_on]],
          "grafts/{id}/tallies" => ["Records an autumn's count", { "tallied_on" => "string", "alive" => "boolean", "growth" => "string", "above" => "string", "below" => "string", "open_a" => "string", "open_b" => "string", "angle" => "integer", "sticks_alive" => "integer", "crop" => "string", "note" => "string", "client_key" => "string" }, %w[tallied_on alive]],
          "grafts/{id}/tasks" => ["Settles a task", { "key" => "string", "what" => "string", "why" => "string", "until_on" => "string" }, %w[key what]],
          "wounds" => ["Notes stripped trunks, a line each", { "cause" => "string", "found_on" => "string", "lines" => "string", "client_key" => "string" }, %w[cause found_on lines]]
        }.freeze

        module_function

        def document
          { "openapi" => "3.1.0", "info" => { "title" => "Vestry", "version" => "1", "description" => "An orchard's records and the craft's reckonings, under the same roles as the pages." }, "servers" => [{ "url" => "/api" }],
            "security" => [{ "token" => [] }], "paths" => paths, "components" => { "securitySchemes" => { "token" => { "type" => "http", "scheme" => "bearer" } }, "schemas" => schemas } }
        end

        def paths
          found = { "/openapi.json" => { "get" => operation("This description", {}, secure: false) }, "/orchards" => { "get" => operation("The orchards you belong to") }, "/orchards/{slug}" => { "get" => operation("One orchard", slug) }, "/reckon" => { "get" => operation("The names of the reckonings") } }
          Core::RECKONINGS.each_key { |name| found["/reckon/#{name}"] = { "post" => operation(Core.reckoning(name).contract.summary, body: { "$ref" => "#/components/schemas/reckon-#{name}" }) } }
          Records::Archive::Rows::NAMES.each do |name|
            found["/orchards/{slug}/#{name}"] = { "get" => operation("Rows of #{name}, a page at a time", slug.merge(paging), answer: { "$ref" => "#/components/schemas/page-#{name}" }) }
            found["/orchards/{slug}/#{name}/{id}"] = { "get" => operation("One of #{name}", slug.merge("id" => ["path", "integer"]), answer: { "$ref" => "#/components/schemas/#{name}" }) } if Records::Archive::Tables.named(name).id?
          end
          WRITES.each do |path, (summary, fields, needed)|
            parameters = path.include?("{id}") ? slug.merge("id" => %w[path integer]) : slug
            (found["/orchards/{slug}/#{path}"] ||= {})["post"] = operation(summary, parameters, body: { "type" => "object", "properties" => fields.transform_values { |type| { "type" => type } }, "required" => needed }, made: true)
          end
          found
        end

        def slug = { "slug" => %w[path string] }
        def paging = { "after" => %w[query integer], "limit" => %w[query integer] }

        def operation(summary, parameters = {}, body: nil, answer: { "type" => "object" }, secure: true, made: false)
          told = { "summary" => summary, "responses" => { made ? "201" : "200" => { "description" => made ? "done" : "the answer", "content" => { "application/json" => { "schema" => answer } } }, "default" => { "description" => "what is wrong", "content" => { "application/problem+json" => { "schema" => { "$ref" => "#/components/schemas/problem" } } } } } }
          told["parameters"] = parameters.map { |name, (place, type)| { "name" => name, "in" => place, "required" => place == "path", "schema" => { "type" => type } } } if parameters.any?
          told["requestBody"] = { "required" => true, "content" => { "application/json" => { "schema" => body } } } if body
          told["security"] = [] unless secure
          told
        end

        def schemas
          tables = Records::Archive::Tables.all.to_h { |table| [table.name, row(table)] }
          pages = Records::Archive::Rows::NAMES.to_h { |name| ["page-#{name}", { "type" => "object", "required" => %w[items next], "properties" => { "items" => { "type" => "array", "items" => { "$ref" => "#/components/schemas/#{name}" } }, "next" => { "type" => %w[integer null] } } }] }
          reckonings = Core::RECKONINGS.keys.to_h { |name| ["reckon-#{name}", record(Core.reckoning(name).contract.fields)] }
          { "problem" => { "type" => "object", "required" => %w[title status], "properties" => { "type" => { "type" => "string" }, "title" => { "type" => "string" }, "status" => { "type" => "integer" }, "detail" => { "type" => "string" }, "errors" => { "type" => "object" } } } }.merge(tables, pages, reckonings)
        end

        KINDS = { "text" => "string", "key" => "integer", "whole" => "integer", "number" => "number", "yes or no" => "boolean", "day" => "string", "moment" => "string", "list" => "array", "json" => "object" }.freeze

        def row(table)
          shown = table.columns.except(:client_key, :hidden_at)
          properties = shown.to_h { |column, kind| [column.to_s, { "type" => [KINDS.fetch(kind), "null"] }] }
          properties["id"] = { "type" => "integer" } if table.id?
          { "type" => "object", "properties" => properties }
        end

        # A reckoning's fields, from its contract.
        def record(fields)
          { "type" => "object", "properties" => fields.to_h { |field| [field.name.to_s, field(field)] }, "required" => fields.reject(&:optional).map { |field| field.name.to_s } }.reject { |name, value| name == "required" && value.empty? }
        end

        def field(field)
          told = case field.kind
                 when :number then { "type" => "number", "minimum" => field.least, "maximum" => field.most, "exclusiveMinimum" => field.above, "exclusiveMaximum" => field.below }
                 when :integer then { "type" => "integer", "minimum" => field.least, "maximum" => field.most, "exclusiveMinimum" => field.above }
                 when :flag then { "type" => "boolean" }
                 when :name then { "type" => "string", "enum" => field.names }
                 when :key then { "type" => %w[string integer] }
                 when :list then { "type" => "array", "items" => field(field.of), "minItems" => field.size, "maxItems" => field.size }
                 when :record then record(field.fields)
                 else { "type" => "string" }
                 end
          told = told.merge("description" => [field.unit && "in #{field.unit}", field.help].compact.join("; ")) if field.unit || field.help
          field.optional && told["type"].is_a?(String) ? told.merge("type" => [told["type"], "null"]).then { |each| each["enum"] ? each.merge("enum" => each["enum"] + [nil]) : each }.compact : told.compact
        end
        private_class_method :paths, :slug, :paging, :operation, :schemas, :row, :record, :field
      end
    end
  end
end
