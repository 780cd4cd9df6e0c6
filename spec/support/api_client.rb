# frozen_string_literal: true

require "json"
require "json_schemer"
require "net/http"
require "uri"

# A client made from nothing but a server's own description of its interface: an operation by its name, its parameters
# where the description says, and every answer held to the schema that it promises.
class ApiClient
  class Unpromised < StandardError; end

  def initialize(base, key)
    @base = URI(base)
    @key = key
    @document = JSON.parse(send_off(Net::HTTP::Get.new("/api/openapi.json")).body)
    @operations = @document["paths"].flat_map do |path, methods|
      methods.map { |method, details| [details.fetch("operationId"), [method, path, details]] }
    end.to_h
  end

  attr_reader :last

  # @return [Object] what the JSON says
  def call(operation, body = nil, headers: {}, **parameters)
    method, path, details = @operations.fetch(operation)
    request = Net::HTTP.const_get(method.capitalize).new(address(path, details, parameters.transform_keys(&:to_s)))
    request["Authorization"] = "Bearer #{@key}"
    headers.each { |name, value| request[name] = value }
    if body
      request["Content-Type"] = "application/json"
      request.body = JSON.generate(body)
    end
    @last = send_off(request)
    promised(details)
  end

  private

  def send_off(request) = Net::HTTP.start(@base.host, @base.port) { |http| http.request(request) }

  def address(path, details, parameters)
    places = (details["parameters"] || []).to_h { |each| [each["name"], each["in"]] }
    strange = parameters.keys - places.keys
    raise Unpromised, "no parameter #{strange.join(', ')} of #{path}" if strange.any?

    inside, behind = parameters.partition { |name, _| places[name] == "path" }
    filled = inside.reduce(path) { |text, (name, value)| text.sub("{#{name}}", URI.encode_www_form_component(value)) }
    "/api#{filled}#{"?#{URI.encode_www_form(behind)}" if behind.any?}"
  end

  def promised(details)
    promise = details["responses"][@last.code] || details["responses"]["default"]
    schema = promise.dig("content", @last.content_type, "schema") or
      raise Unpromised, "#{@last.code} #{@last.content_type}: #{@last.body.to_s[0, 300]}"
    value = JSON.parse(@last.body)
    faults = JSONSchemer.schema({ **schema, "components" => @document["components"] }).validate(value).first(1)
    raise Unpromised, faults.first["error"] if faults.any?

    value
  end
end
